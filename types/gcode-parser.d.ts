declare module "gcode-parser" {
  export function parseLine(
    line: string,
    options?: { lineMode?: "original" | "stripped" | "compact" },
  ): { line: string; words: [string, number][] };
}
