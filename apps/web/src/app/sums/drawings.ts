/** A small line drawing: what the letters of a sum mean. View box 0 0 320 110. */
export interface SumDrawing {
  readonly paths: readonly string[];
  readonly dashed: readonly string[];
  readonly texts: readonly { readonly x: number; readonly y: number; readonly text: string }[];
}

const arrow = (x1: number, y1: number, x2: number, y2: number): string => {
  const a = Math.atan2(y2 - y1, x2 - x1);
  const head = (turn: number): string =>
    `M${x2} ${y2}L${(x2 - 8 * Math.cos(a + turn)).toFixed(1)} ${(y2 - 8 * Math.sin(a + turn)).toFixed(1)}`;
  return `M${x1} ${y1}L${x2} ${y2}${head(0.45)}${head(-0.45)}`;
};
const both = (x1: number, y1: number, x2: number, y2: number): string => arrow(x1, y1, x2, y2) + arrow(x2, y2, x1, y1);

const FIXED_DRAWINGS: Readonly<Record<string, SumDrawing>> = {
  screw: {
    paths: [
      "M30 40H290M30 60H290M30 40V60M290 40V60",
      "M20 28h22v44h-22zM276 28h22v44h-22z",
      "M60 40l8 20M80 40l8 20M100 40l8 20M200 40l8 20M220 40l8 20M240 40l8 20M260 40l8 20",
      "M130 32h44v36h-44z",
      both(42, 90, 276, 90),
      arrow(176, 50, 216, 50),
    ],
    dashed: ["M42 72V96M276 72V96"],
    texts: [
      { x: 150, y: 104, text: "L" },
      { x: 212, y: 34, text: "F" },
      { x: 140, y: 26, text: "nut at x" },
    ],
  },
  nut: {
    paths: [
      "M40 55H150M40 35H110M40 75H110",
      "M110 25h34v60h-34z",
      "M118 25v60M126 25v60M134 25v60",
      "M70 25h40v60h-40z",
      arrow(200, 55, 150, 55),
      "M220 20a40 40 0 0 1 30 62",
      arrow(250, 82, 240, 90),
      both(110, 97, 144, 97),
    ],
    dashed: ["M20 55H280"],
    texts: [
      { x: 204, y: 50, text: "F" },
      { x: 262, y: 56, text: "T" },
      { x: 150, y: 101, text: "thread d, pitch P" },
    ],
  },
  shim: {
    paths: [
      "M30 80H290",
      "M30 50L290 34V52L30 68Z",
      "M40 68h30v12h-30zM250 54h30v26h-30z",
      "M250 60h30M250 66h30M250 72h30",
      both(55, 98, 265, 98),
    ],
    dashed: [],
    texts: [
      { x: 130, y: 106, text: "distance of the bolts" },
      { x: 286, y: 72, text: "shims" },
    ],
  },
  tram: {
    paths: [
      "M20 92H300",
      "M150 6h20v34h-20z",
      "M160 40V54H70V86",
      "M64 86h12",
      "M160 54H250V82",
      "M244 82h12",
      both(70, 101, 250, 101),
    ],
    dashed: ["M70 86a90 14 0 0 0 180 0"],
    texts: [
      { x: 148, y: 98, text: "span" },
      { x: 44, y: 80, text: "left" },
      { x: 262, y: 78, text: "right" },
    ],
  },
  gib: {
    paths: [
      "M40 20H280V40H40Z",
      "M40 40L280 52V64H40Z",
      "M40 64H280V90H40Z",
      "M280 52h24M292 46v12",
      arrow(310, 58, 284, 58),
    ],
    dashed: [],
    texts: [
      { x: 120, y: 34, text: "way" },
      { x: 120, y: 56, text: "gib, taper 1 : n" },
      { x: 120, y: 82, text: "member" },
    ],
  },
  marker: {
    paths: [
      "M20 70H300",
      "M60 40v30M60 40h20",
      arrow(60, 84, 150, 84),
      "M150 58v24",
      "M240 58v24",
      both(150, 98, 240, 98),
    ],
    dashed: ["M195 50v32"],
    texts: [
      { x: 46, y: 32, text: "switch trips" },
      { x: 128, y: 50, text: "marker" },
      { x: 168, y: 108, text: "one turn" },
      { x: 78, y: 98, text: "distance" },
    ],
  },
  costs: {
    paths: ["M40 95V15M40 95H300", "M40 90C140 88 200 70 290 24", "M40 60H290"],
    dashed: [],
    texts: [
      { x: 200, y: 56, text: "now" },
      { x: 230, y: 34, text: "later" },
      { x: 258, y: 107, text: "age" },
    ],
  },
  grease: {
    paths: [
      "M90 20h120v20h-120zM90 70h120v20h-120z",
      "M140 42a13 13 0 1 0 26 0a13 13 0 1 0 -26 26",
      both(90, 102, 210, 102),
      both(230, 20, 230, 90),
    ],
    dashed: [],
    texts: [
      { x: 146, y: 100, text: "B" },
      { x: 236, y: 60, text: "D" },
    ],
  },
};

/** Rows of an arrangement: +1 leans one way, −1 the other (its line of contact). */
const LEANS: readonly (readonly number[])[] = [
  [1, -1],
  [-1, 1],
  [1, 1, -1],
  [1, -1, -1],
  [1, 1, -1, -1],
  [1, 1, 1, -1],
  [1, 1],
];

/** Rows of angular contact with their lines of contact: where they meet shows the arrangement. */
export function bearingDrawing(arrangement: number): SumDrawing {
  const leans = LEANS[arrangement] ?? LEANS[0];
  const width = 44;
  const left = 160 - (leans.length * width) / 2;
  const paths: string[] = [];
  const dashed: string[] = [];
  leans.forEach((lean, i) => {
    const x = left + i * width;
    const c = x + width / 2;
    paths.push(`M${x + 2} 14h${width - 4}v16h-${width - 4}zM${x + 2} 62h${width - 4}v16h-${width - 4}z`);
    paths.push(`M${c - 11} 46a11 11 0 1 0 22 0a11 11 0 1 0 -22 0`);
    dashed.push(`M${c - 26 * lean} 92L${c + 13 * lean} 23`);
  });
  paths.push(arrow(left - 50, 70, left - 6, 70), "M20 100H300");
  return {
    paths,
    dashed,
    texts: [
      { x: left - 60, y: 60, text: "F" },
      { x: 200, y: 110, text: "axis of the screw" },
    ],
  };
}

export function sumDrawing(id: string, values: Readonly<Record<string, number>>): SumDrawing {
  const fixed = FIXED_DRAWINGS as Readonly<Partial<Record<string, SumDrawing>>>;
  if (id === "bearing") return bearingDrawing(values["set"] ?? 0);
  return fixed[id] ?? FIXED_DRAWINGS["screw"];
}
