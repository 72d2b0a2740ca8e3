import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { SUMS, sumById } from "@iron/core";
import { CONFIG } from "../../testing/axis";
import { answer, cut, setUpBed, show } from "../../testing/place";
import { Preferences } from "../data/preferences";
import { SumsPage } from "./sums-page";

describe("the sums", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => {
    TestBed.inject(Preferences).system.set("metric");
    http.verify();
  });
  const units = (system: "metric" | "inch"): void => {
    TestBed.inject(Preferences).system.set(system);
    TestBed.tick();
  };
  /** A sum with a length to type, in the present set and the proposed. */
  const growth = () => show(SumsPage, { sumId: "growth" });

  it.each(SUMS.map((s) => [s.name, s.id]))(
    "%s opens with its source, its answer and values that can be",
    (name, id) => {
      const page = show(SumsPage, { sumId: id });
      expect(page.page.getByRole("heading", { level: 1 }).textContent).toBe(name);
      expect(page.text()).toMatch(/Source: \S/);
      expect(page.alerts()).toBe("");
      // What is measured here and now begins empty, and the answer waits for it.
      const asked = (sumById(id)?.fields ?? []).filter((f) => f.asked);
      const rows = () => page.page.getByRole("region", { name: "Results" }).querySelectorAll("tr").length;
      if (asked.length) expect(rows()).toBe(0);
      for (const field of asked) page.type(new RegExp(`^${field.label}`), field.quantity === "length" ? "200" : "8");
      expect(rows()).toBeGreaterThan(0);
      units("inch");
      expect(page.alerts()).toBe("");
    },
  );

  it("a value is typed in the reader’s units and keeps its size through their change, there and back", () => {
    const page = growth();
    page.type("Length that warms up, mm", "1000");
    units("inch");
    expect(Number(page.value("Length that warms up, in"))).toBeCloseTo(39.37008, 4);
    units("metric");
    expect(Number(page.value("Length that warms up, mm"))).toBeCloseTo(1000, 3);
  });

  it("so does one of the proposed set, even when the units change while it is not shown", () => {
    const page = growth();
    page.tick("Compare with a proposed one");
    const [, proposed] = page.page.getAllByLabelText<HTMLInputElement>("Length that warms up, mm");
    proposed.value = "254";
    proposed.dispatchEvent(new Event("input"));
    page.tick("Compare with a proposed one");
    units("inch");
    page.tick("Compare with a proposed one");
    const [, again] = page.page.getAllByLabelText<HTMLInputElement>("Length that warms up, in");
    expect(Number(again.value)).toBeCloseTo(10, 6);
  });

  it("what cannot be is said beside its field, and the answer waits", () => {
    const page = growth();
    page.type("Length that warms up, mm", "long");
    expect(page.alerts()).toContain("“long” is not a number.");
    expect(page.alerts()).toContain("One of the values cannot be: see beside it.");
    page.type("Length that warms up, mm", "-5");
    expect(page.alerts()).not.toContain("long");
    expect(page.alerts()).not.toBe("");
    page.press("Start values again");
    expect(page.alerts()).toBe("");
  });

  it("begins with the figures of an axis, or its own where that cannot be had", () => {
    const page = show(SumsPage, { sumId: "critical-speed", axis: "2" });
    answer(http.expectOne("/api/axes/2"), { id: 2, config: CONFIG });
    expect(page.text()).toContain(`Begins with the figures of axis ${CONFIG.letter}.`);
    page.give({ axis: "3" });
    cut(http.expectOne("/api/axes/3"));
    expect(page.text()).not.toContain("Begins with");
  });

  it("is found by a word; what is not called so is said", () => {
    const page = growth();
    const links = () => page.page.getByRole("navigation", { name: "Sums" }).querySelectorAll("a").length;
    const all = links();
    page.type("Find a sum", "preload");
    expect(links()).toBeGreaterThan(0);
    expect(links()).toBeLessThan(all);
    page.type("Find a sum", "xyzzy");
    expect(page.text()).toContain("No sum is called that.");
    expect(show(SumsPage, { sumId: "astrology" }).text()).toContain("There is no such sum");
  });
});
