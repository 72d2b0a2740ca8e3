import { keptList } from "./kept-list";

interface Item {
  readonly key: string;
}

describe("what waits between page loads", () => {
  const list = keptList<Item>("list", (item) => item.key);
  const stored = (): unknown => JSON.parse(localStorage.getItem("list") ?? "null");
  beforeEach(() => localStorage.clear());

  it("is kept, and leaves nothing behind", () => {
    list.keep([{ key: "a" }], null);
    expect(list.all()).toEqual([{ key: "a" }]);
    list.keep([], { key: "a" });
    expect(localStorage.getItem("list")).toBeNull();
  });

  it("stands beside what another tab keeps there", () => {
    list.keep([{ key: "a" }], null);
    localStorage.setItem("list", JSON.stringify([{ key: "a" }, { key: "theirs" }]));
    list.keep([{ key: "b" }], { key: "a" });
    expect(stored()).toEqual([{ key: "theirs" }, { key: "b" }]);
  });

  it("what cannot be read is none; what cannot be kept is not in the way", () => {
    localStorage.setItem("list", "{broken");
    expect(list.all()).toEqual([]);
    localStorage.setItem("list", '{"not":"a list"}');
    expect(list.all()).toEqual([]);
    const full = jest.spyOn(Storage.prototype, "setItem").mockImplementation(() => {
      throw new Error("full");
    });
    expect(() => list.keep([{ key: "a" }], null)).not.toThrow();
    full.mockRestore();
  });
});
