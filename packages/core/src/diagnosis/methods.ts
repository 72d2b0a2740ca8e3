/** Where good people disagree on a remedy: the methods, the default, and why (common practice, no source). */
export const METHODS: Readonly<Record<string, string>> = {
  "gib-tight":
    "Methods: tighten until it seizes and back off; measure the loss while tightening; rock by hand. Default: the knee of friction against turns, the rock as its check.",
  "gib-loose":
    "Methods: tighten until it seizes and back off; measure the loss while tightening; rock by hand. Default: the knee of friction against turns, the rock as its check.",
  "control-comp":
    "Methods: compensate what is left, leave it, or tighten again. Default: mechanics first, then by the limits, never over zero.",
  "nut-clearance": "Methods: compensate it, or leave it. Default: by the axis’ limits, once the mechanics are checked.",
  "nut-preload-lost":
    "Methods: preload by feel, by torque, or by drag. Default: torque where the machine’s book gives one, drag measured otherwise, feel recorded always.",
  "end-bearing-overtight":
    "Methods: preload by feel, by torque, or by drag. Default: torque where the machine’s book gives one, drag measured otherwise, feel recorded always.",
  "end-bearing-worn":
    "Methods: only the proven axis, or all while it is open. Default: computed from age and the shared stop.",
  "nut-returns":
    "Methods: rebuild, flush, or replace. Default: by screw class; a ground, preloaded nut goes to a screw shop.",
  "nut-dirty":
    "Methods: rebuild, flush, or replace. Default: by screw class; a ground, preloaded nut goes to a screw shop.",
  "nut-worn":
    "Methods: rebuild, rebalance, or replace. Default: by screw class; a ground, preloaded nut goes to a screw shop.",
  "way-dry": "Methods: oil wiped or flooded, or grease by stroke. Default: what the maker states; never mix.",
  "normal-running-in":
    "Methods: friction compensation from the circle, or zero. Default: zero on fresh parts: nudges can dig in at the quadrant.",
};
