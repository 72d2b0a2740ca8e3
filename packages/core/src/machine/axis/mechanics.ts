/** How the fixed end sits on its casting: placed by pins, placed by hand, or a block with grub screws on the screw. */
export const FIXED_ENDS = ["pinned", "unpinned", "pillow-block"] as const;
export const BRAKE_PLACES = ["motor", "screw"] as const;
/** The side of the bracket on which the nut’s flange lies. */
export const FLANGE_SIDES = ["fixed", "far"] as const;
export const TORQUE_SOURCES = ["book", "table", "snug"] as const;

/** A fastener as this axis has it, where somebody looked. */
export interface OwnFastener {
  readonly thread: string;
  readonly grade: string;
  readonly count: number;
  /** N·m; null where it is snug only. */
  readonly torqueNm: number | null;
  readonly source: (typeof TORQUE_SOURCES)[number];
}

/**
 * What holds, moves and can be reached on one axis, as far as a job depends on it. Weights that
 * nobody noted are null and taken by kind and size; “not known” is an answer.
 */
export interface AxisMechanics {
  readonly memberKg: number | null;
  readonly motorKg: number | null;
  readonly brakeAt: (typeof BRAKE_PLACES)[number];
  /** The brake can be let go by a hand lever. */
  readonly brakeLever: boolean;
  /** Somebody looked whether there is a drag brake. */
  readonly dragBrakeKnown: boolean;
  readonly fixedEnd: (typeof FIXED_ENDS)[number];
  /** The support end has a nut of its own. */
  readonly farNut: boolean;
  readonly flangeSide: (typeof FLANGE_SIDES)[number];
  /** The nut’s flange passes the casting on that side; else the bracket comes off first. */
  readonly flangePasses: boolean;
  /** The coupling is behind a panel and faces it at one place only. */
  readonly couplingHidden: boolean;
  readonly bumper: boolean;
  /** The nut is seen only with the table off. */
  readonly tableOverNut: boolean;
  readonly lubeLine: boolean;
  /** The column can be shimmed on its base. */
  readonly column: boolean;
  /** Fasteners looked at on this axis, by the joint they hold. */
  readonly fasteners: Readonly<Record<string, OwnFastener>>;
}

/** A middling machining centre (common practice, no source). */
export const BASE_MECHANICS: AxisMechanics = {
  memberKg: null,
  motorKg: null,
  brakeAt: "motor",
  brakeLever: false,
  dragBrakeKnown: false,
  fixedEnd: "pinned",
  farNut: true,
  flangeSide: "fixed",
  flangePasses: true,
  couplingHidden: true,
  bumper: true,
  tableOverNut: false,
  lubeLine: true,
  column: false,
  fasteners: {},
};
