/**
 * What comes before what on one axis, phase by phase: any selection of these, in this order, is the
 * order of the trade (common practice, no source). Where it hurts to swap two, the audit says so.
 */
// prettier-ignore
export const STEP_ORDER: readonly string[] = [
  // Measured, noted, parked.
  "measure-before", "trace-before", "sweep-before", "note-home", "panel-off", "go-opening", "set-block",
  // Made safe and opened.
  "try-self-lock", "try-block", "secure-balance", "covers-off", "bumper-off", "table-off", "note-stretch",
  // From the motor inwards.
  "try-all", "flush-in-place", "hub-ease", "belt-off", "mesh-clear", "motor-off", "hub-off", "try-end", "tighten:motor", "tighten:housing", "tighten:retainer", "tighten:far-support", "tighten:nut-bracket", "tighten:bracket-member", "tighten:nut-flange", "tighten:screw-clamps",
  "unhook-balance", "prop-in", "sling-on", "lock-open", "far-nut-ease", "nut-back", "retainer-off", "nut-off", "spacer-out",
  "light-snug", "housing-loosen", "far-ease", "lube-off", "nut-ease", "nut-parted", "grease-nut", "bracket-loose", "bracket-off", "far-nut-off", "far-open", "far-bearing-out",
  "housing-ease", "pins-out", "shims-out", "housing-off", "nut-flange-off", "clamps-off", "bearing-out", "finger-feel", "back-drive",
  "screw-out", "new-screw", "send-screw", "nut-from-screw", "service-nut", "nut-to-screw", "clean-seat",
  // And back.
  "bearing-in", "retainer-on", "screw-in", "housing-on", "pins-in", "shims-in", "housing-snug", "housing-pinned", "nut-flange-on", "clamps-on",
  "far-bearing-in", "far-on", "wind-up", "spacer-in", "nut-on", "set-preload", "lock-shut", "sling-off",
  "bracket-on", "nut-joined", "lube-on", "loosen-antibacklash", "set-antibacklash", "light-tight", "housing-tight", "nut-tight", "float-bracket", "table-on", "far-shut", "far-nut-set", "prop-out",
  // Guideway, rack, switch, head, column.
  "find-spot", "loosen-rack", "set-rack", "hold-load", "carriage-1", "carriage-2", "carriage-3", "carriage-4", "release-load", "square-gantry", "square-rails", "pinion-set",
  "relieve-cage", "cage-far", "cage-near", "centre-cage", "loosen-wheels", "set-wheels", "loosen-gib", "set-gib-rock", "switch-off", "switch-on",
  "head-loose", "shim-head", "column-loose", "shim-column",
  "hook-balance",
  "renew-coupling", "new-insert", "hub-on", "motor-on", "tighten:hub-screw", "coupling-shut",
  // The drive last.
  "mesh-set", "belt-new", "belt-on", "bumper-on", "release-balance",
  "untie", "remove-block",
  // It proves itself.
  "creep", "marker", "reference", "set-gib", "slow-jog", "retest-chain", "retest-travel-load", "retest-travel-steps", "retest-home", "retest-tram", "retest-plumb", "retest-pattern", "retest-circle", "review-compensation",
  "park", "tab-fold", "covers-on", "panel-on", "last-stroke",
];

/** With the table off, nut and bracket are set in their seat before it goes back and the rest is aligned. */
export const UNDER_TABLE: readonly string[] = ["nut-tight", "float-bracket", "table-on"];
