import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Router } from "@angular/router";
import { answer, cut, refuse, setUpBed, show } from "../../testing/place";
import { Preferences } from "../data/preferences";
import { NewMachine } from "./new-machine";

describe("a machine that is added", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const open = () => {
    const page = show(NewMachine);
    page.type("Nickname", "Wren");
    page.type("Bay", "4");
    return page;
  };
  const sent = () => http.expectOne({ url: "/api/machines", method: "POST" });

  it("goes out with its axes by letter, in the units that are worked in, and is gone to", () => {
    TestBed.inject(Preferences).toggleUnits();
    const go = jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockResolvedValue(true);
    const page = open();
    page.choose("Kind", "lathe");
    page.type("Axis letters", "x, z1;Z2  B");
    page.type("Working hours per week", "80");
    page.press("Add the machine");
    const request = sent();
    expect(request.request.body).toEqual({
      nickname: "Wren",
      bay: "4",
      kind: "lathe",
      hoursPerWeek: 80,
      note: "",
      letters: ["X", "Z1", "Z2", "B"],
      units: "inch",
    });
    answer(request, { id: 12 });
    expect(go).toHaveBeenCalledWith("/machines/12");
  });

  it.each([
    ["Axis letters", "X Yz", "“YZ” is no axis letter"],
    ["Axis letters", "X Z x", "X is there twice."],
    ["Nickname", "", "Nickname is empty"],
    ["Working hours per week", "200", "168"],
    ["Working hours per week", "many", "“many” is not a number."],
  ])("%s “%s” is refused at its field, and nothing goes out", (label, text, why) => {
    const page = open();
    page.type(label, text);
    page.press("Add the machine");
    expect(page.alerts()).toContain(why);
    expect(page.value(label)).toBe(text);
    page.type(label, label === "Working hours per week" ? "40" : "X");
    page.press("Add the machine");
    expect(sent().request.body).toMatchObject({ bay: "4" });
  });

  it("what the server refuses is said, what is typed stays, and it can be tried again", () => {
    const page = open();
    page.press("Add the machine");
    // A second press while the first is under way sends nothing.
    page.press("Add the machine");
    refuse(sent(), 409, { detail: "There is a machine called Wren already." });
    expect(page.alerts()).toBe("There is a machine called Wren already.");
    expect(page.value("Nickname")).toBe("Wren");
    page.press("Add the machine");
    cut(sent());
    expect(page.alerts()).toContain("does not answer");
  });
});
