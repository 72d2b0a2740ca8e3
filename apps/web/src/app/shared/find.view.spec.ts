import { findOn } from "./find.view";

const floor = {
  machines: [
    {
      id: 1,
      nickname: "Old Bess",
      bay: "7",
      axes: [
        { id: 11, letter: "X" },
        { id: 12, letter: "Z" },
      ],
    },
    { id: 2, nickname: "Zander", bay: "12", axes: [{ id: 21, letter: "X" }] },
  ],
} as unknown as Parameters<typeof findOn>[0];
const words = (text: string) => findOn(floor, text).map((f) => f.words);

describe("finding a machine", () => {
  it("is by the beginning of any word of its name, or by its bay; machines come before axes", () => {
    expect(words("bess")).toEqual(["Old Bess", "Old Bess X", "Old Bess Z"]);
    expect(words("7")).toEqual(["Old Bess", "Old Bess X", "Old Bess Z"]);
    expect(words("ess")).toEqual([]);
  });

  it("goes straight to an axis when its letter is typed too", () => {
    expect(findOn(floor, "bess z")).toEqual([{ words: "Old Bess Z", where: "bay 7", link: "/machines/1/axes/12" }]);
    // One letter is the beginning of a name as well as an axis.
    expect(words("z")).toEqual(["Zander", "Old Bess Z", "Zander X"]);
  });

  it("says nothing to nothing, and never more than eight", () => {
    expect(words("  ")).toEqual([]);
    const many = {
      machines: Array.from({ length: 20 }, (_, i) => ({ id: i, nickname: `Mill ${i}`, bay: "1", axes: [] })),
    };
    expect(findOn(many as unknown as typeof floor, "mill")).toHaveLength(8);
  });
});
