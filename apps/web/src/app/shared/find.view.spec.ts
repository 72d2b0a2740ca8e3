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
const found = (text: string) => findOn(floor, text).map((f) => f.label);

describe("finding a machine", () => {
  it("is by the beginning of any word of its name, or by its bay; machines come before axes", () => {
    expect(found("bess")).toEqual(["Old Bess", "Old Bess X", "Old Bess Z"]);
    expect(found("7")).toEqual(["Old Bess", "Old Bess X", "Old Bess Z"]);
    expect(found("ess")).toEqual([]);
  });

  it("goes straight to an axis when its letter is typed too", () => {
    expect(findOn(floor, "bess z")).toEqual([{ label: "Old Bess Z", where: "bay 7", link: "/machines/1/axes/12" }]);
    // One letter is the beginning of a name as well as an axis.
    expect(found("z")).toEqual(["Zander", "Old Bess Z", "Zander X"]);
  });

  it("says nothing to nothing, and never more than eight", () => {
    expect(found("  ")).toEqual([]);
    const many = {
      machines: Array.from({ length: 20 }, (_, i) => ({ id: i, nickname: `Mill ${i}`, bay: "1", axes: [] })),
    };
    expect(findOn(many as unknown as typeof floor, "mill")).toHaveLength(8);
  });
});
