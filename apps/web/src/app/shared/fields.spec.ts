import { TestBed } from "@angular/core/testing";
import * as fc from "fast-check";
import { setUpBed, show } from "../../testing/place";
import { Preferences } from "../data/preferences";
import { ChoiceField, choicesOf, NumberField, TextField } from "./fields";

describe("labelled fields", () => {
  beforeEach(() => void setUpBed());
  afterEach(() => TestBed.inject(Preferences).system.set("metric"));
  const number = (inputs: object = {}) => {
    const field = show(NumberField, { label: "Pull", value: 10, ...inputs });
    const read: (number | null)[] = [];
    field.component.read.subscribe((v) => read.push(v));
    return { ...field, read };
  };

  it.each([
    ["7,5", 7.5],
    ["-3", -3],
    ["1e2", 100],
    ["", undefined],
    ["12 N", undefined],
  ])("“%s” reads as %s", (text, value) => {
    const field = number();
    field.type(/^Pull/, text);
    expect(field.read).toEqual(value === undefined ? [] : [value]);
    expect(field.alerts() === "").toBe(value !== undefined);
    expect(field.page.getByLabelText(/^Pull/).getAttribute("aria-invalid")).toBe(value === undefined ? "true" : null);
  });

  it("may be left empty only where that means something", () => {
    const field = number({ none: true });
    field.type(/^Pull/, " ");
    expect([field.read, field.alerts()]).toEqual([[null], ""]);
  });

  it("what is refused is described beside the field, stays typed, and goes with a reset or a new value", () => {
    const field = number({ least: 0, most: 20 });
    field.type(/^Pull/, "21");
    const input = field.page.getByLabelText(/^Pull/);
    const said = field.page.getByText("“21” cannot be: it must be from 0 to 20.");
    expect(input.getAttribute("aria-describedby")).toBe(said.parentElement?.id);
    field.give({ value: 10 });
    expect(field.value(/^Pull/)).toBe("21");
    field.component.reset();
    TestBed.tick();
    expect([field.value(/^Pull/), field.alerts()]).toEqual(["10", ""]);
    field.type(/^Pull/, "many");
    field.give({ value: 11 });
    expect([field.value(/^Pull/), field.alerts()]).toEqual(["11", ""]);
  });

  it("one bound alone is said as such", () => {
    const field = number({ least: 5 });
    field.type(/^Pull/, "4");
    expect(field.alerts()).toBe("“4” cannot be: it must be 5 or more.");
  });

  it("a quantity is typed and bounded in the reader’s unit and told in the core’s, for any value", () => {
    TestBed.inject(Preferences).system.set("inch");
    const field = number({ quantity: "force", least: 0, most: 1e6 });
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 20_000 }), (tenths) => {
        field.type("Pull, lbf", String(tenths / 10));
        // 1 lbf = 4.4482216152605 N exactly.
        expect(field.read.at(-1)).toBeCloseTo((tenths / 10) * 4.4482216152605, 6);
      }),
      { numRuns: 40 },
    );
    field.type("Pull, lbf", "-1");
    expect(field.alerts()).toBe("“-1” cannot be: it must be from 0 to 224808.9 lbf.");
  });

  it("text is told as it is typed; of several lines when the field is left", () => {
    const one = show(TextField, { label: "Place", value: "", most: 5 });
    const typed: string[] = [];
    one.component.typed.subscribe((t) => typed.push(t));
    one.type("Place", "nut");
    expect(typed).toEqual(["nut"]);
    const lines = show(TextField, { label: "Checks", value: "a", lines: true });
    lines.component.typed.subscribe((t) => typed.push(t));
    lines.type("Checks", "a\nb");
    expect(typed).toEqual(["nut", "a\nb"]);
  });

  it("one of several, or none where that is offered", () => {
    const choice = show(ChoiceField, {
      label: "Way in",
      value: "line",
      choices: choicesOf(["nipple", "line"]),
      none: "not known",
    });
    const chosen: string[] = [];
    choice.component.chosen.subscribe((c) => chosen.push(String(c)));
    expect(choice.value("Way in")).toBe("line");
    choice.choose("Way in", "");
    choice.choose("Way in", "nipple");
    expect(chosen).toEqual(["", "nipple"]);
  });
});
