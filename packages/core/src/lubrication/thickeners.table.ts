// Compatibility of grease thickeners as the table that handbooks and suppliers print has it (from memory; never
// instead of the makers' own word): C compatible, B borderline, I incompatible. The upper half is enough: what mixes
// one way mixes the other.

/** Thickeners in the order of the table's rows and columns. */
export const THICKENERS = [
  "aluminium complex",
  "barium",
  "calcium",
  "calcium 12-hydroxystearate",
  "calcium complex",
  "clay",
  "lithium",
  "lithium 12-hydroxystearate",
  "lithium complex",
  "polyurea",
] as const;
export type Thickener = (typeof THICKENERS)[number];

// prettier-ignore
export const THICKENERS_MIX: Readonly<Record<Thickener, string>> = {
  //                             Al  Ba  Ca  C12 CaX cly Li  L12 LiX urea
  "aluminium complex":          "-   I   I   C   I   I   I   I   C   I",
  "barium":                     "-   -   I   C   I   I   I   I   I   I",
  "calcium":                    "-   -   -   C   I   C   C   B   C   I",
  "calcium 12-hydroxystearate": "-   -   -   -   B   C   C   C   C   I",
  "calcium complex":            "-   -   -   -   -   I   I   I   C   C",
  "clay":                       "-   -   -   -   -   -   I   I   I   I",
  "lithium":                    "-   -   -   -   -   -   -   C   C   I",
  "lithium 12-hydroxystearate": "-   -   -   -   -   -   -   -   C   I",
  "lithium complex":            "-   -   -   -   -   -   -   -   -   I",
  "polyurea":                   "-   -   -   -   -   -   -   -   -   -",
};
