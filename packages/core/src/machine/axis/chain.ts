import { isGravityAxis, type AxisConfig } from "./config";

export const LINK_IDS = [
  "motor",
  "coupling",
  "belt",
  "pinion",
  "rack",
  "end-bearings",
  "nut-bearings",
  "screw",
  "nut",
  "bracket",
  "member",
  "way",
] as const;
export type LinkId = (typeof LINK_IDS)[number];

/** One link of the drive chain, in order from the command to the table. */
export interface ChainLink {
  readonly id: LinkId;
  readonly name: string;
  /** Which drawing stands for it. */
  readonly drawing: string;
  /** One short fact about it. */
  readonly note: string;
}

const MEMBER_TEXT: Record<AxisConfig["member"], string> = {
  table: "Table",
  saddle: "Saddle",
  head: "Head",
  gantry: "Gantry",
  carriage: "Carriage",
  ram: "Ram",
  quill: "Quill",
};

const COUPLING_NOTES: Record<AxisConfig["coupling"], string> = {
  clamp: "clamp hubs",
  insert: "with insert",
  bellows: "bellows",
  disc: "disc pack",
  rigid: "rigid",
};

const WAY_TEXT: Record<AxisConfig["guideway"], string> = {
  box: "box, gib",
  dovetail: "dovetail, gib",
  rail: "rail carriages",
  "v-wheel": "V-wheels",
  "crossed-roller": "crossed rollers",
  "ball-cage": "ball cage",
};

const NUT_NOTES: Record<AxisConfig["nut"], string> = {
  "single-clearance": "single, clearance",
  "single-preloaded": "single, preloaded",
  double: "double",
  "anti-backlash": "anti-backlash",
};

const BEARING_NOTES: Record<AxisConfig["bearings"], string> = {
  "angular-pair": "angular pair",
  "angular-triple": "angular, three",
  "angular-quad": "angular, four",
  "deep-groove-pair": "deep groove pair",
  "plain-thrust": "thrust washers",
};

const FEEDBACK_NOTES: Record<AxisConfig["feedback"], string> = {
  encoder: "encoder inside",
  scale: "scale at the table",
  "open-loop": "no feedback",
};

/**
 * What the member is called on this axis: Table, Head, Gantry …
 * @param axis - the axis’ configuration
 * @returns its name
 * @example memberName(defaultAxis("vertical-centre", "X")) // 'Table'
 */
export function memberName(axis: Pick<AxisConfig, "member">): string {
  return MEMBER_TEXT[axis.member];
}

function gravityNote(axis: AxisConfig): string {
  if (!isGravityAxis(axis)) return "";
  const held = [
    axis.brake && "brake",
    axis.counterweight && "counterweight",
    axis.gasSpring && "gas spring",
    axis.dragBrake && "drag brake",
  ].filter(Boolean);
  return held.length ? `held by ${held.join(", ")}` : "nothing holds it";
}

/**
 * The drive chain of an axis, command first, guideway last. What an axis does not have is not in it.
 * @param axis - the axis’ configuration
 * @returns the links, command first
 * @example chainOf(defaultAxis("vertical-centre", "X"))[0].id // 'motor'
 */
export function chainOf(axis: AxisConfig): readonly ChainLink[] {
  const links: ChainLink[] = [
    { id: "motor", name: "Motor", drawing: `motor-${axis.motor}`, note: FEEDBACK_NOTES[axis.feedback] },
  ];
  const belt: ChainLink = { id: "belt", name: "Belt", drawing: "belt", note: `${axis.ratio} : 1` };
  const couple: ChainLink = {
    id: "coupling",
    name: "Coupling",
    drawing: `coupling-${axis.coupling}`,
    note: COUPLING_NOTES[axis.coupling],
  };
  const nut: ChainLink = { id: "nut", name: "Nut", drawing: `nut-${axis.nut}`, note: NUT_NOTES[axis.nut] };
  const bracket: ChainLink = { id: "bracket", name: "Bracket", drawing: "bracket", note: "" };
  const screwNote = `${axis.screw.nominalMm} × ${axis.screw.leadMm}, ${axis.screw.make}`;
  const ends = `screw-${axis.screw.fixings}`;
  if (axis.transmission === "rack") {
    links.push(
      { id: "pinion", name: "Pinion", drawing: "pinion", note: `${axis.pinionDiameterMm} mm` },
      { id: "rack", name: "Rack", drawing: "rack", note: "" },
    );
  } else if (axis.transmission === "rotating-nut") {
    links.push(
      belt,
      { id: "nut-bearings", name: "Nut bearings", drawing: "nut-bearings", note: BEARING_NOTES[axis.bearings] },
      { ...nut, drawing: "nut-rotating", note: "turns on the screw" },
      { id: "screw", name: "Screw", drawing: "screw-fixed-still", note: `${screwNote}, stands still` },
    );
  } else {
    const plain = axis.transmission === "plain-screw";
    links.push(
      axis.transmission === "belt" ? belt : couple,
      {
        id: "end-bearings",
        name: "End bearings",
        drawing: `bearing-${axis.lockNut}`,
        note: BEARING_NOTES[axis.bearings],
      },
      {
        id: "screw",
        name: plain ? "Lead screw" : "Screw",
        drawing: plain ? ends.replace("screw-", "plain-") : ends,
        note: screwNote,
      },
      nut,
      bracket,
    );
  }
  links.push(
    { id: "member", name: memberName(axis), drawing: `member-${axis.member}`, note: gravityNote(axis) },
    { id: "way", name: "Way", drawing: `way-${axis.guideway}`, note: WAY_TEXT[axis.guideway] },
  );
  return links;
}
