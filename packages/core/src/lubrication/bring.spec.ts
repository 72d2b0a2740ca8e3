import { bringList, walkOrder } from "./bring";

const nut = {
  way: "nipple" as const,
  dose: 2,
  doseUnit: "strokes" as const,
  lubricant: "grease",
  link: "nut" as const,
  partsNut: false,
};

describe("what is taken along", () => {
  it("is each tool once, with what all points together take; what can fall wants its block, a job its own list", () => {
    const list = bringList(
      [
        nut,
        { ...nut, dose: 3, heldBy: "block" },
        { ...nut, way: "drip", dose: 40, doseUnit: "drops", lubricant: "way oil" },
        { ...nut, way: "wipe", dose: 1, doseUnit: "wipe", lubricant: "light oil" },
        { ...nut, way: "bath", dose: 0, link: null, lubricant: "way oil" },
        { ...nut, way: "central line", dose: 3, lubricant: "slide oil" },
        { ...nut, way: "look", dose: 0, lubricant: "none" },
        { ...nut, partsNut: true, lubricant: "other grease" },
      ],
      0.8,
    );
    expect(list).toEqual([
      { what: "grease gun, grease", amount: "5 strokes, about 4 g" },
      { what: "can, way oil", amount: "40 drops, about 2 g and to top up" },
      { what: "cloth for light oil", amount: "one wipe" },
      { what: "can, slide oil", amount: "to top up" },
      { what: "block to lay under what can fall", amount: "" },
      { what: "lock and tag, clean cloths, lamp", amount: "" },
    ]);
  });

  it("is nothing where nothing is walked", () => {
    expect(bringList([], 0.8)).toEqual([]);
    expect(bringList([{ ...nut, partsNut: true }], 0.8)).toEqual([]);
  });
});

describe("the way through the shop", () => {
  it("goes by the bays that the shop has named, then by number", () => {
    expect(["12", "3", "7", "2", "10"].sort(walkOrder(["7", "3", "12"]))).toEqual(["7", "3", "12", "2", "10"]);
    expect(["b2", "A1", "B10"].sort(walkOrder([" a1 "]))).toEqual(["A1", "b2", "B10"]);
  });
});
