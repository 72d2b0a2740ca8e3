import { giveText } from "@iron/core";
import type { Rounds } from "@iron/contract";
import { datesInText } from "../shared/times.text";
import { lubricationPoint as point } from "../../testing/lubrication";
import {
  chainMarks,
  dayBars,
  dueText,
  FOUND_KEYS,
  firstText,
  foundKeys,
  jobSizeText,
  riskText,
  shortText,
  walkOf,
} from "./rounds.view";

const rounds: Rounds = {
  days: [
    {
      date: "2026-03-02",
      minutes: 45,
      jobMinutes: 0,
      first: [],
      available: 90,
      stops: [{ machineId: 2, nickname: "Godwit", bay: "7", points: [point(), point({ id: 2, lateDays: 3 })] }],
    },
    { date: "2026-03-07", minutes: 0, jobMinutes: 0, first: [], available: 0, stops: [] },
  ],
  late: 1,
  points: 2,
  currency: "EUR",
  gramsPerStroke: 0.8,
  against: 0.8,
  changes: [],
  changedAt: null,
  unplanned: [],
};

describe("what fits a point", () => {
  it("nobody finds a belt flooded, and a bowl below its mark is not a dry bearing", () => {
    expect(foundKeys({ way: "nipple", dose: 2 })).toEqual(FOUND_KEYS);
    expect(foundKeys({ way: "look", dose: 0 }).map((k) => k.label)).toEqual(["Looked at"]);
    expect(foundKeys({ way: "clean", dose: 0 }).map((k) => k.state)).toEqual(["right", "dirty"]);
    expect(foundKeys({ way: "bath", dose: 0 }).map((k) => k.label)).toContain("Below its mark");
  });

  it("a point that nobody is known to have seen to is due, and says why", () => {
    const never = point({ neverSeen: true, lateDays: 0, dueOn: "2026-03-03" });
    expect(dueText(never)).toContain("due Tue 3 Mar, as nobody is known to have seen to it; every");
    expect(dueText({ ...never, neverSeen: false })).not.toContain("nobody");
  });
});

describe("rounds as they are shown", () => {
  it("say what is given and when it is due, and what was learnt", () => {
    expect(giveText(point())).toBe("4 strokes, grease, lithium, NLGI 2");
    expect(giveText(point({ dose: 1 }))).toBe("1 stroke, grease, lithium, NLGI 2");
    expect(giveText(point({ dose: 1, doseUnit: "wipe", lubricant: "light oil" }))).toBe("wipe with light oil");
    expect(giveText(point({ dose: 0, lubricant: "greased for life" }))).toBe("greased for life");
    expect(dueText(point({ lateDays: 1.6 }))).toBe("1 day late; every 126 days by hours");
    expect(dueText(point({ dueSpreadDays: 6.4 }))).toMatch(/^due .* ± 6 days; every 126 days by hours$/);
    expect(dueText(point({ unlearntDays: 180, learnt: "found dry twice", held: true }))).toMatch(
      /every 126 days by hours \(was 180: found dry twice\), held by the maker’s bounds$/,
    );
  });

  it("bars hold what people have; the walk goes stop by stop", () => {
    const [monday, saturday] = dayBars(rounds);
    expect(monday).toMatchObject({ part: 0.5, late: 1 });
    expect(monday.label).toContain("45 of 90 min, 2 points, 1 late");
    expect(saturday.label).toContain("nobody there");
    expect(walkOf(rounds, "2026-03-02").map((w) => w.point.id)).toEqual([1, 2]);
    expect(walkOf(rounds, "2026-03-09")).toEqual([]);
    expect(FOUND_KEYS).toHaveLength(5);
  });

  it("dates of the server are said as days", () => {
    expect(datesInText("Knot, nut: 2026-11-30 to 2026-12-01")).toMatch(
      /^Knot, nut: Mon 30 Nov( 2026)? to Tue 1 Dec( 2026)?$/,
    );
  });

  it("hangs points on their links", () => {
    expect(
      chainMarks([point(), point({ id: 2, lateDays: 3 }), point({ id: 3, link: "nut" }), point({ id: 4, link: null })]),
    ).toEqual({ way: "2 points, 1 late", nut: "1 point" });
  });
});

describe("what comes first where there is not time for all", () => {
  const [day, off] = rounds.days;
  const job = point({ id: 5, job: { minutes: 200, people: 2 }, risk: { dry: 0.3, week: 500 } });
  const points = [point({ id: 1, risk: { dry: 0.1, week: 4 } }), job, point({ id: 2, risk: { dry: 0.6, week: 96 } })];
  const short: Rounds = {
    ...rounds,
    days: [{ ...day, available: 5, first: [2], jobMinutes: 400, stops: [{ ...day.stops[0], points }] }, off],
  };

  it("is walked first, and why is said in the shop’s money; a job is no part of it", () => {
    expect(walkOf(short, "2026-03-02").map((w) => w.point.id)).toEqual([2, 1, 5]);
    expect(firstText(short, "2026-03-02")).toBe(
      "5 minutes are enough for 1 of 2 points. These come first: left for a week they risk €96 of the €100 of all.",
    );
    expect(dayBars(short)[0].label).toContain("and a job of 6 h 40 min");
  });

  it("is not said where there is time", () => {
    expect(firstText(rounds, "2026-03-02")).toBe("");
    expect(walkOf(rounds, "2026-03-02").map((w) => w.point.id)).toEqual([1, 2]);
  });

  it("what waiting risks is said where it is worth a word; of a look nothing runs dry", () => {
    expect(riskText(points[2], "EUR")).toBe("Left for a week it risks about €96: dry by now in 60 of 100 cases.");
    expect(riskText({ ...points[2], dose: 0 }, "EUR")).toBe("Left for a week it risks about €96.");
    expect(riskText(point({ risk: { dry: 0.01, week: 0.4 } }), "EUR")).toBe("");
    expect(jobSizeText(job.job)).toBe("about 3 h 20 min, two people");
  });

  it("says what waits for want of minutes, how much is missing and what it risks", () => {
    const one = { id: 1, name: "Godwit, X wipers", why: "", noMinutes: true, minutes: 30, week: 40 };
    const shut = { ...one, id: 3, noMinutes: false };
    expect(shortText({ ...rounds, unplanned: [shut] })).toBe("");
    const text = shortText({ ...rounds, unplanned: [one, { ...one, id: 2, minutes: 60, week: 60 }, shut] });
    expect(text).toContain(
      "what is due wants 1 h 30 min more. So the 2 points that risk least for their minutes wait: for each week about",
    );
    expect(text).toMatch(/\b100\b/);
    expect(shortText({ ...rounds, unplanned: [one] })).toContain(
      "the one point that risks least for its minutes waits",
    );
  });
});
