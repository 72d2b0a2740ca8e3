import { ComponentFixture, TestBed } from "@angular/core/testing";
import { DayField } from "./day-field";
import { TickBox } from "./tick-box";

describe("a day under its label", () => {
  const set = (value: string) => {
    const made: ComponentFixture<DayField> = TestBed.createComponent(DayField);
    made.componentRef.setInput("label", "Walked on");
    made.componentRef.setInput("value", value);
    const told: string[] = [];
    made.componentInstance.picked.subscribe((day) => told.push(day));
    made.detectChanges();
    const field = (made.nativeElement as HTMLElement).querySelector("input") as HTMLInputElement;
    const paste = (text: string): void => {
      field.value = text;
      field.dispatchEvent(new Event("input", { bubbles: true }));
    };
    return { made, field, told, paste };
  };

  it("shows the day of the shop, year first, and names its field", () => {
    const { field, made } = set("2026-03-01");
    expect(field.value).toBe("2026-03-01");
    const label = (made.nativeElement as HTMLElement).querySelector("label");
    expect([label?.textContent, label?.htmlFor]).toEqual(["Walked on", field.id]);
  });

  it("takes what is pasted when it is a day that exists, tells it once, and an emptied field as none", () => {
    const { told, paste } = set("2026-03-01");
    for (const text of ["2026-02-28", "2026-02-28", ""]) paste(text);
    expect(told).toEqual(["2026-02-28", ""]);
  });

  it("what it shows on leaving is what was told: a pasted day stays, and what is no day leaves none behind", () => {
    const { field, told, paste } = set("2026-03-01");
    paste("2026-02-28");
    field.dispatchEvent(new Event("blur"));
    expect([field.value, told.at(-1)]).toEqual(["2026-02-28", "2026-02-28"]);
    for (const none of ["2026-02-31", "soon", "2026-02-3"]) {
      paste("2026-02-28");
      paste(none);
      field.dispatchEvent(new Event("blur"));
      expect([none, field.value, told.at(-1)]).toEqual([none, "", ""]);
    }
  });

  it("a day typed key by key stands as it is typed", () => {
    const { field, told } = set("2026-03-01");
    field.value = "";
    for (const key of "2026-02-28") {
      field.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true }));
      const typed = field.value + key;
      field.value = typed;
      field.dispatchEvent(new Event("input", { bubbles: true }));
      expect(field.value).toBe(typed);
    }
    field.dispatchEvent(new Event("blur"));
    expect([field.value, told.at(-1)]).toEqual(["2026-02-28", "2026-02-28"]);
  });

  it("follows what it is given", () => {
    const { made, field, told } = set("");
    made.componentRef.setInput("value", "2027-12-24");
    made.detectChanges();
    expect([field.value, told]).toEqual(["2027-12-24", []]);
  });
});

describe("a tick beside its words", () => {
  it("is told when pressed, and follows what it is given without telling it back", () => {
    const made = TestBed.createComponent(TickBox);
    const told: boolean[] = [];
    made.componentInstance.ticked.subscribe((on) => told.push(on));
    made.componentRef.setInput("checked", true);
    made.detectChanges();
    const box = (made.nativeElement as HTMLElement).querySelector("input") as HTMLInputElement;
    expect([box.checked, told]).toEqual([true, []]);
    box.click();
    expect(told).toEqual([false]);
    expect((made.nativeElement as HTMLElement).querySelector("label")?.htmlFor).toBe(box.id);
  });
});
