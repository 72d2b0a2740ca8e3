import { TestBed } from "@angular/core/testing";
import { defaultAxis, type AxisConfig } from "@iron/core";
import { setUpBed, show } from "../../../testing/place";
import { Preferences } from "../../data/preferences";
import { FastenerEditor } from "./fastener-editor";

const config = defaultAxis("vertical-centre", "X");

describe("fasteners of an axis", () => {
  beforeEach(() => {
    setUpBed();
  });
  afterEach(() => {
    TestBed.inject(Preferences).system.set("metric");
  });

  function open(of: AxisConfig = config) {
    const page = show(FastenerEditor, { config: of });
    const noted: AxisConfig["mechanics"]["fasteners"][] = [];
    page.component.edited.subscribe((f) => noted.push(f));
    return { page, noted };
  }

  it("a torque from the book is noted by its fastener, in the reader’s units", () => {
    const { page, noted } = open();
    expect(page.text()).toContain("None noted");
    page.choose("Fastener", "housing");
    page.type("How many", "6");
    page.type("Torque, N·m", "75");
    page.press("Note this fastener");
    expect(noted).toEqual([
      {
        housing: {
          thread: "M8",
          grade: "8.8",
          count: 6,
          torqueNm: 75,
          source: "book",
        },
      },
    ]);
    TestBed.inject(Preferences).system.set("inch");
    const inch = open();
    inch.page.choose("Fastener", "housing");
    inch.page.type(/^Torque, lbf/, "100");
    inch.page.press("Note this fastener");
    // 1 lbf·ft is 1.3558 N·m (NIST SP 811, from memory).
    expect(inch.noted[0]["housing"].torqueNm).toBeCloseTo(135.58, 1);
  });

  it("what cannot be is named with its bound and nothing is noted; snug wants no figure", () => {
    const { page, noted } = open();
    page.choose("Fastener", "bumper");
    page.type("How many", "0");
    page.press("Note this fastener");
    expect(page.alerts()).toContain("How many “0” cannot be: from 1 to 99.");
    page.type("How many", "2");
    page.type("Torque, N·m", "much");
    page.press("Note this fastener");
    expect(page.alerts()).toContain("Torque “much” cannot be");
    expect(noted).toEqual([]);
    page.choose("Torque from", "snug");
    page.press("Note this fastener");
    expect(noted[0]["bumper"].torqueNm).toBeNull();
  });

  it("what was noted is said as job sheets say it, and goes back to usual", () => {
    const own = {
      ...config,
      mechanics: {
        ...config.mechanics,
        fasteners: {
          housing: {
            thread: "M10",
            grade: "12.9",
            count: 6,
            torqueNm: 75,
            source: "book" as const,
          },
        },
      },
    };
    const { page, noted } = open(own);
    expect(page.text()).toContain("6 × housing screws, M10: 75.0 N·m");
    page.press("Back to usual");
    expect(noted).toEqual([{}]);
  });
});
