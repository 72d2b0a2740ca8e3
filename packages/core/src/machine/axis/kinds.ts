export const MACHINE_KINDS = [
  "vertical-centre",
  "horizontal-centre",
  "lathe",
  "horizontal-borer",
  "router",
  "bench-mill",
  "engraver",
  "surface-grinder",
  "other",
] as const;
export type MachineKind = (typeof MACHINE_KINDS)[number];

export const MACHINE_KIND_TEXT: Record<MachineKind, string> = {
  "vertical-centre": "vertical centre",
  "horizontal-centre": "horizontal centre",
  lathe: "lathe",
  "horizontal-borer": "horizontal borer",
  router: "plate router",
  "bench-mill": "bench mill",
  engraver: "engraver",
  "surface-grinder": "surface grinder",
  other: "machine",
};
