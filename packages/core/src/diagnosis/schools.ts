/** Where good people disagree on a remedy: the schools, the default, and why (common practice, no source). */
export const SCHOOLS: Readonly<Record<string, string>> = {
  "gib-tight":
    "Schools: tighten until it seizes and back off; measure the loss while tightening; rock by hand. Default: the knee of friction against turns, the rock as its check.",
  "gib-loose":
    "Schools: tighten until it seizes and back off; measure the loss while tightening; rock by hand. Default: the knee of friction against turns, the rock as its check.",
  "control-comp":
    "Schools: compensate what is left, leave it, or tighten again. Default: mechanics first, then by the limits, never over zero.",
  "nut-clearance": "Schools: compensate it, or leave it. Default: by the axis’ limits, once the mechanics are checked.",
  "nut-preload-lost":
    "Schools: preload by feel, by torque, or by drag. Default: torque where the machine’s book gives one, drag measured otherwise, feel recorded always.",
  "end-bearing-overtight":
    "Schools: preload by feel, by torque, or by drag. Default: torque where the machine’s book gives one, drag measured otherwise, feel recorded always.",
  "end-bearing-worn":
    "Schools: only the proven axis, or all while it is open. Default: computed from age and the shared stop.",
  "nut-returns":
    "Schools: rebuild, flush, or replace. Default: by screw class; a ground, preloaded nut goes to a screw shop.",
  "nut-dirty":
    "Schools: rebuild, flush, or replace. Default: by screw class; a ground, preloaded nut goes to a screw shop.",
  "nut-worn":
    "Schools: rebuild, rebalance, or replace. Default: by screw class; a ground, preloaded nut goes to a screw shop.",
  "way-dry": "Schools: oil wiped or flooded, or grease by stroke. Default: what the maker states; never mix.",
  "normal-running-in":
    "Schools: friction compensation from the circle, or zero. Default: zero on fresh parts: nudges can dig in at the quadrant.",
};
