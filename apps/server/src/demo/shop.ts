import { defaultAxis, type AxisConfig } from "@iron/core";
import type { IndicatorEdit } from "@iron/contract";
import { axis, every26Weeks, type DemoMachine } from "./demo-axis";

export const SHOP = {
  name: "Harrow Fen Pump Works",
  currency: "GBP",
  people: ["Ilse", "Tomas", "Ama", "Rowan"],
  demo: true,
};

export const INDICATORS: readonly IndicatorEdit[] = [
  {
    name: "Digital indicator, 1 µm",
    kind: "digital",
    resolutionMm: 0.001,
    unit: "mm",
    tipAngleDeg: 0,
    rangeMm: 10,
  },
  {
    name: "Lever indicator, 2 µm",
    kind: "lever",
    resolutionMm: 0.002,
    unit: "mm",
    tipAngleDeg: 12,
    rangeMm: 0.8,
  },
  {
    name: "Plunger dial, 0.01 mm",
    kind: "plunger",
    resolutionMm: 0.01,
    unit: "mm",
    tipAngleDeg: 0,
    rangeMm: 10,
  },
  {
    name: "Lever dial, 0.0005 in",
    kind: "lever",
    resolutionMm: 0.0127,
    unit: "in",
    tipAngleDeg: 10,
    rangeMm: 0.762,
  },
  {
    name: "Reference scale, 0.5 µm",
    kind: "digital",
    resolutionMm: 0.0005,
    unit: "mm",
    tipAngleDeg: 0,
    rangeMm: 6000,
  },
];

const screw = defaultAxis("vertical-centre", "X").screw;
const box: Partial<AxisConfig> = {
  guideway: "box",
  rapidMmMin: 12_000,
  lockNut: "retainer-ring",
};

/** Invented machines with invented histories; the faults are hidden in the virtual axes. */
export const MACHINES: readonly DemoMachine[] = [
  {
    nickname: "Bittern",
    bay: "4",
    kind: "vertical-centre",
    hoursPerWeek: 78,
    note: "Box ways, counterweight on Z. Pump casings.",
    axes: [
      axis("vertical-centre", "X", {
        over: { ...box, travelMm: 760 },
        culprit: "nut",
        past: every26Weeks(3, 7, 7.5, 8, 9),
      }),
      axis("vertical-centre", "Y", {
        over: { ...box, travelMm: 410 },
        culprit: "nut",
        past: every26Weeks(3, 8, 8.5, 9, 9.5),
        parts: { gibTightN: 280, nutNewMm: 0.0008 },
      }),
      axis("vertical-centre", "Z", {
        over: { ...box, travelMm: 480, counterweight: true, brake: false },
        culprit: "endBearings",
        past: [
          { weeksAgo: 94, lostUm: 8 },
          { weeksAgo: 68, lostUm: 8 },
          { weeksAgo: 42, lostUm: 9 },
          { weeksAgo: 16, lostUm: 9 },
          { weeksAgo: 0.02, lostUm: 27 },
        ],
        hidden: { loadN: 40 },
        events: [
          { weeksAgo: 5, kind: "repair", text: "Z motor off for a new connector, coupling reset.", by: "Tomas" },
        ],
      }),
    ],
  },
  {
    nickname: "Godwit",
    bay: "7",
    kind: "vertical-centre",
    hoursPerWeek: 96,
    note: "Rails, brake on Z. The same valve body fixture since it came.",
    axes: [
      axis("vertical-centre", "X", {
        over: { travelMm: 660, coupling: "bellows" },
        culprit: "wear",
        past: [
          { weeksAgo: 98, lostUm: 6, kind: "travel-profile" },
          { weeksAgo: 74, lostUm: 8, kind: "travel-profile" },
          { weeksAgo: 48, lostUm: 11.5, kind: "travel-profile" },
          { weeksAgo: 22, lostUm: 14, kind: "travel-profile" },
        ],
      }),
      axis("vertical-centre", "Y", {
        over: { travelMm: 460, coupling: "bellows" },
        culprit: "nut",
        past: every26Weeks(22, 5, 5.5, 5, 6),
        parts: { misalignN: 260, nutNewMm: 0.001 },
        events: [
          {
            weeksAgo: 3,
            kind: "repair",
            text: "Way covers renewed; the support bearing was off for it.",
            by: "Rowan",
          },
        ],
      }),
      axis("vertical-centre", "Z", {
        over: { travelMm: 460, coupling: "bellows" },
        culprit: "nut",
        past: every26Weeks(22, 4.5, 5, 5),
        hidden: { loadN: 30 },
        parts: { bearingPitting: 0.75, bearingGapMm: 0.021, nutNewMm: 0.001 },
      }),
    ],
  },
  {
    nickname: "Dunlin",
    bay: "2",
    kind: "router",
    hoursPerWeek: 40,
    note: "Plate router, rack and pinion.",
    axes: [
      axis("router", "X", {
        over: { travelMm: 3000 },
        culprit: "endBearings",
        past: every26Weeks(2, 52, 55, 57, 60),
        parts: { rackSpotN: 210, spotAt: 0.37, meshNewMm: 0.053 },
      }),
      axis("router", "Y", {
        over: {
          travelMm: 1500,
          member: "carriage",
          transmission: "belt",
          ratio: 2,
          screw: { ...screw, leadMm: 20, freeLengthMm: 1750 },
          guideway: "rail",
        },
        culprit: "nut",
        past: [],
      }),
      axis("router", "Z", { over: {}, culprit: "nut", past: every26Weeks(2, 17, 18) }),
    ],
  },
  {
    nickname: "Avocet",
    bay: "9",
    kind: "bench-mill",
    hoursPerWeek: 30,
    note: "Dovetail gibs; the apprentices’ mill.",
    axes: [
      axis("bench-mill", "X", { over: {}, culprit: "nut", past: every26Weeks(4, 27, 29, 30, 31) }),
      axis("bench-mill", "Y", {
        over: { travelMm: 180 },
        culprit: "bracket",
        past: [
          { weeksAgo: 60, lostUm: 22 },
          { weeksAgo: 30, lostUm: 24 },
          { weeksAgo: 22, lostUm: 29 },
          { weeksAgo: 16, lostUm: 35 },
          { weeksAgo: 10, lostUm: 41 },
          { weeksAgo: 4, lostUm: 48 },
        ],
        events: [
          { weeksAgo: 28, kind: "adjustment", text: "Gib set, nut bracket off and on again for it.", by: "Rowan" },
        ],
      }),
      axis("bench-mill", "Z", { over: {}, culprit: "nut", past: every26Weeks(4, 20, 21, 22) }),
    ],
  },
  {
    nickname: "Curlew",
    bay: "1",
    kind: "lathe",
    hoursPerWeek: 84,
    note: "Slant bed. Shafts and sleeves.",
    axes: [
      axis("lathe", "X", {
        over: { travelMm: 220, transmission: "belt", ratio: 1.5 },
        culprit: "nut",
        past: every26Weeks(6, 3.6, 3.8, 4),
        parts: { nutNewMm: 0.001 },
      }),
      axis("lathe", "Z", {
        over: { travelMm: 600 },
        culprit: "nut",
        past: every26Weeks(6, 6, 6.5, 7),
        parts: { couplingSlipMm: 0.06, nutNewMm: 0.001 },
      }),
    ],
  },
  {
    nickname: "Heron",
    bay: "3",
    kind: "horizontal-borer",
    hoursPerWeek: 60,
    note: "Scales on every axis.",
    axes: [
      axis("horizontal-borer", "X", {
        over: {
          travelMm: 2000,
          transmission: "rotating-nut",
          ratio: 2,
          screw: { ...screw, nominalMm: 63, rootMm: 57, leadMm: 20, freeLengthMm: 2400, fixings: "fixed-fixed" },
        },
        culprit: "nut",
        past: [...every26Weeks(9, 0, 0, 0), { weeksAgo: 2, lostUm: 0, kind: "travel-profile", places: 21 }],
        // Its scales were never set alike.
        lead: { scaleErrorMm: 0.17, slowError: { amplitudeMm: 0.004, waveMm: 800 } },
      }),
      axis("horizontal-borer", "Y", {
        over: {
          travelMm: 1200,
          orientation: "vertical",
          member: "head",
          counterweight: true,
          screw: { ...screw, nominalMm: 50, rootMm: 44, freeLengthMm: 1400 },
        },
        culprit: "nut",
        past: every26Weeks(9, 0, 0),
        lead: { scaleErrorMm: -0.024 },
      }),
      axis("horizontal-borer", "Z", {
        over: { travelMm: 900, member: "ram" },
        culprit: "nut",
        past: every26Weeks(9, 0, 0, 0),
      }),
    ],
  },
  {
    nickname: "Plover",
    bay: "6",
    kind: "engraver",
    hoursPerWeek: 12,
    note: "V-wheels and lead screws: nameplates.",
    axes: [
      axis("engraver", "X", { over: {}, culprit: "nut", past: every26Weeks(17, 60, 66, 70) }),
      axis("engraver", "Y", {
        over: {
          travelMm: 300,
          screw: { ...defaultAxis("engraver", "Y").screw, fixings: "fixed-free", freeLengthMm: 360 },
        },
        culprit: "nut",
        past: every26Weeks(17, 74, 80, 85),
      }),
    ],
  },
  {
    nickname: "Knot",
    bay: "8",
    kind: "surface-grinder",
    hoursPerWeek: 25,
    note: "Ball-cage slide on X, crossed rollers on Y.",
    axes: [
      axis("surface-grinder", "X", {
        over: { transmission: "plain-screw", nut: "anti-backlash" },
        culprit: "nut",
        past: [],
        parts: { cageShiftMm: 14, nutNewMm: 0.018 },
      }),
      axis("surface-grinder", "Y", {
        over: { guideway: "crossed-roller", travelMm: 180 },
        culprit: "nut",
        past: [{ weeksAgo: 53, lostUm: 4 }],
      }),
    ],
  },
];
