import { TestBed } from "@angular/core/testing";
import { setUpBed, show } from "../../testing/place";
import { BringList } from "./bring-list";

describe("what is taken along", () => {
  beforeEach(() => setUpBed());

  it("is ticked as it is laid ready, with how much to fill", () => {
    const things = [
      { what: "grease gun, grease", amount: "34 strokes, about 28 g" },
      { what: "clean cloths", amount: "" },
    ];
    const page = show(BringList, { things, date: "2026-03-02" });
    expect(page.text()).toContain("grease gun, grease: 34 strokes, about 28 g");
    expect(page.page.getByRole("heading", { name: "To bring" })).toBeTruthy();
    for (const box of page.page.getAllByRole("checkbox")) box.click();
    TestBed.tick();
    expect(page.page.getByRole("heading", { name: "All is laid ready" })).toBeTruthy();
  });

  it("is nothing where nothing is walked", () => {
    expect(show(BringList, { things: [], date: "2026-03-02" }).text()).toBe("");
  });
});
