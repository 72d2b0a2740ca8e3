import type { LubricantRecord } from "@iron/contract";
import { lubricationPoint } from "../../testing/lubrication";
import { setUpBed, show } from "../../testing/place";
import { PointForm, type LubricationPointEdit } from "./point-form";
import { pointEdit } from "./rounds.view";

const start = pointEdit(lubricationPoint({ place: "X ball nut" }));

describe("the form of a lubrication point", () => {
  beforeEach(() => void setUpBed());
  const open = (over: object = {}) => {
    const form = show(PointForm, { start, ...over });
    const kept: LubricationPointEdit[] = [];
    form.component.kept.subscribe((p) => kept.push(p));
    return { ...form, kept };
  };

  it("keeps what was changed, and the rest as it was", () => {
    const form = open();
    form.type("Place", "X ball nut, far side");
    form.type("Dose", "2,5");
    form.choose("Dose in", "grams");
    form.type(/^or running hours/, "");
    form.type(/^Look at/, "wiper\n\n glitter ");
    form.tick("Machine must be off and locked");
    form.press("Keep the point");
    expect(form.alerts()).toBe("");
    const { rule, machineOff } = start;
    expect(form.kept).toEqual([
      expect.objectContaining({
        place: "X ball nut, far side",
        dose: 2.5,
        doseUnit: "grams",
        checks: ["wiper", "glitter"],
        machineOff: !machineOff,
        rule: { ...rule, hours: null },
      }),
    ]);
  });

  it("a number that cannot be read is said beside it till it is mended, whatever else is typed", () => {
    const form = open();
    form.type("Dose", "four");
    form.type("Minutes", "6");
    form.type("Never under, days", "soon");
    form.press("Keep the point");
    expect(form.alerts()).toBe("“four” is not a number. | “soon” is not a number.");
    expect([form.value("Dose"), form.kept.length]).toEqual(["four", 0]);
    expect(document.activeElement).toBe(form.page.getByLabelText("Dose"));
    form.type("Dose", "4");
    form.type("Never under, days", "20");
    form.press("Keep the point");
    expect(form.kept[0]).toMatchObject({ dose: 4, minutes: 6, rule: { leastDays: 20 } });
  });

  it.each([
    ["Dose", "501", "“501”: Dose must be from 0 to 500."],
    ["Minutes", "0", "“0”: Minutes must be from 0.5 to 240."],
    ["Every so many days, empty for not", "0", "“0”: Calendar interval must be from 1 to 3650 days."],
    ["Never under, days", "4000", "“4000”: Least interval must be from 1 to 3650 days."],
    ["Never over, days", "1", "The least interval is longer than the greatest."],
    ["Place", "  ", "Place"],
  ])("%s of “%s” is refused with its bound", (label, text, words) => {
    const form = open();
    form.type(label, text);
    form.press("Keep the point");
    expect(form.alerts()).toContain(words);
    expect(form.kept).toEqual([]);
    expect(form.value(label)).toBe(text);
  });

  it("a visit that makes the point anew meanwhile empties nothing", () => {
    const form = open();
    form.type("Place", "behind the cover");
    form.give({ start: pointEdit(lubricationPoint({ visits: 3 })) });
    expect(form.value("Place")).toBe("behind the cover");
  });

  it("says what another grease in the same place means, and what the server would not have", () => {
    const grease = (id: number, name: string, thickener: string) =>
      ({ id, name, kind: "grease", thickener, base: "mineral" }) as unknown as LubricantRecord;
    const form = open({
      lubricants: [grease(1, "blue", "lithium"), grease(2, "white", "clay")],
      inThere: "blue",
      refused: "Somebody else changed it.",
    });
    form.type("Lubricant", "white");
    expect(form.alerts()).toMatch(/with what is in there\./);
    expect(form.alerts()).toContain("Somebody else changed it.");
  });
});
