/** Names of the sums that a step may want: here, because the sums themselves are a heavy load for a name. */
export const SUM_NAMES = {
  "bearing-nut": "Bearing nut: torque and clamp force",
  "critical-speed": "Critical speed",
  drag: "Drag torque",
  gib: "Gib turns and clearance",
  grease: "Grease fill and strokes",
  "home-marker": "Home marker",
  life: "Life over a duty",
  "make-up": "Make-up spacer",
  preload: "Bearing set under load",
  "screw-line": "Screw alignment from two readings",
  shims: "Shim stack from stock",
  spacer: "Spacer grind",
  tram: "Tram and plumb",
  "while-open": "While it is open",
} as const;

/** Sums that arise at a step, by the step’s own name. */
export const STEP_SUMS: Readonly<Partial<Record<string, readonly (keyof typeof SUM_NAMES)[]>>> = {
  "set-preload": ["bearing-nut", "drag", "preload"],
  "spacer-in": ["make-up", "spacer"],
  "bearing-in": ["grease"],
  "new-screw": ["critical-speed", "life"],
  "float-bracket": ["screw-line"],
  "housing-tight": ["screw-line"],
  "shims-in": ["shims"],
  "set-gib": ["gib"],
  "set-gib-rock": ["gib"],
  "shim-head": ["tram", "shims"],
  "shim-column": ["tram", "shims"],
  marker: ["home-marker"],
  "retest-tram": ["tram"],
  "finger-feel": ["while-open"],
};
