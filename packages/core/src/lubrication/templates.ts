import { isGravityAxis, type AxisConfig } from "../machine/axis";
import type { IntervalRule, LubePoint } from "./types";

const PRACTICE = "common practice, no source";
const rule = (
  days: number | null,
  hours: number | null,
  km: number | null,
  leastDays: number,
  mostDays: number,
): IntervalRule => ({ days, hours, km, leastDays, mostDays });

function point(over: Partial<LubePoint> & Pick<LubePoint, "place" | "rule">): LubePoint {
  return {
    letter: null,
    link: null,
    way: "nipple",
    lubricant: "grease, lithium, NLGI 2",
    dose: 3,
    doseUnit: "strokes",
    minutes: 4,
    access: "",
    machineOff: true,
    partsNut: false,
    checks: [],
    factors: [],
    weight: 2,
    provenance: PRACTICE,
    ...over,
  };
}

/** Points that an axis has, ready to be changed. Whole rail length is oiled, the unused ends too. */
export function axisPoints(axis: AxisConfig): readonly LubePoint[] {
  const { letter } = axis;
  const points: LubePoint[] = [];
  const add = (over: Parameters<typeof point>[0]): void => void points.push(point({ letter, ...over }));
  // Whoever reaches under what can fall has it parked low or blocked before.
  const edge = isGravityAxis(axis)
    ? `park ${letter} low or block it, covers back, cloth under`
    : `move ${letter} to the near end, covers back, cloth under`;
  switch (axis.guideway) {
    case "rail":
      add({
        place: `${letter} rail carriages, four`,
        link: "way",
        dose: 4,
        minutes: 8,
        access: edge,
        rule: rule(182, 1500, 100, 60, 365),
        checks: ["wipers and covers whole"],
        weight: 3,
      });
      break;
    case "box":
    case "dovetail":
      add({
        place: `${letter} ways, central system`,
        link: "way",
        way: "central line",
        lubricant: "way oil, ISO VG 68",
        dose: 3,
        minutes: 5,
        machineOff: false,
        access: "the farthest outlet in sight",
        rule: rule(30, 300, null, 7, 92),
        outlets: ["near the pump", "middle", "farthest"],
        checks: ["farthest outlet wet", "reservoir full"],
        weight: 3,
      });
      break;
    case "v-wheel":
      add({
        place: `${letter} wheel tracks and felts`,
        link: "way",
        way: "wipe",
        lubricant: "light oil, ISO VG 32",
        dose: 1,
        doseUnit: "wipe",
        minutes: 3,
        access: edge,
        rule: rule(30, 100, null, 7, 92),
        checks: ["each wheel just turns by hand"],
        weight: 1,
      });
      break;
    default:
      add({
        place: `${letter} slide and cage`,
        link: "way",
        way: "drip",
        lubricant: "light oil, ISO VG 32",
        dose: 6,
        doseUnit: "drops",
        minutes: 4,
        access: edge,
        rule: rule(30, 200, null, 7, 182),
        checks: ["full travel reached"],
        weight: 2,
      });
  }
  if (axis.transmission === "rack")
    add({
      place: `${letter} rack and pinion`,
      link: "rack",
      way: "wipe",
      lubricant: "gear grease, adhesive",
      dose: 1,
      doseUnit: "wipe",
      minutes: 10,
      access: "brush the teeth clean first",
      rule: rule(30, 200, 60, 7, 92),
      checks: ["teeth clean, no chip"],
      weight: 2,
    });
  else if (axis.transmission === "plain-screw")
    add({
      place: `${letter} lead screw`,
      link: "screw",
      way: "wipe",
      lubricant: "light oil, ISO VG 32",
      dose: 1,
      doseUnit: "wipe",
      minutes: 3,
      access: edge,
      rule: rule(30, 100, null, 7, 92),
      weight: 2,
    });
  else
    add({
      place: `${letter} ball nut`,
      link: "nut",
      dose: 2,
      minutes: 5,
      access: edge,
      rule: rule(182, 1000, 80, 60, 365),
      checks: ["no metal glitter in the old grease"],
      weight: 3,
    });
  if (axis.transmission !== "rack")
    add({
      place: `${letter} end bearings`,
      link: "end-bearings",
      way: "bath",
      lubricant: "greased for life",
      dose: 0,
      doseUnit: "grams",
      minutes: 2,
      machineOff: false,
      access: "back of the hand on the housing after it has run",
      rule: rule(182, null, null, 90, 365),
      checks: ["warm, not hot"],
      weight: 1,
    });
  if (isGravityAxis(axis) && axis.counterweight)
    add({
      place: `${letter} counterweight chain`,
      link: "member",
      way: "wipe",
      lubricant: "chain oil, ISO VG 100",
      dose: 1,
      doseUnit: "wipe",
      minutes: 5,
      access: "member parked low or blocked; from the ladder",
      rule: rule(92, null, null, 30, 365),
      checks: ["no stiff links, pins in place"],
      weight: 2,
    });
  return points;
}

/** Points that every machine has besides its axes. */
export function machinePoints(): readonly LubePoint[] {
  return [
    point({
      place: "air unit",
      way: "bath",
      lubricant: "air-tool oil, ISO VG 32",
      dose: 0,
      doseUnit: "drops",
      minutes: 3,
      machineOff: false,
      access: "stopped, what air holds parked low or blocked; to fill: air shut off and vented",
      rule: rule(14, null, null, 7, 60),
      checks: ["bowl dry", "oiler filled"],
      weight: 2,
    }),
    point({
      place: "drag chain and hoses",
      way: "wipe",
      lubricant: "none, looked at only",
      dose: 0,
      doseUnit: "wipe",
      minutes: 3,
      rule: rule(92, null, null, 30, 365),
      checks: ["no chafed hose", "all links whole"],
      weight: 1,
    }),
    point({
      place: "spindle taper and gaskets",
      way: "wipe",
      lubricant: "none, wiped clean and dry",
      dose: 0,
      doseUnit: "wipe",
      minutes: 4,
      access: "tool out",
      rule: rule(14, null, null, 7, 60),
      checks: ["taper clean", "gaskets whole", "collets without cracks"],
      weight: 2,
    }),
  ];
}

export function templatePoints(axes: readonly AxisConfig[]): readonly LubePoint[] {
  return [...axes.flatMap(axisPoints), ...machinePoints()];
}
