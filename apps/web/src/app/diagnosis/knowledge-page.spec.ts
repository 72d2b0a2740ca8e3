import type { HttpTestingController } from "@angular/common/http/testing";
import type { Knowledge } from "@iron/contract";
import { answer, cut, hearNotices, refuse, setUpBed, show } from "../../testing/place";
import { KnowledgePage } from "./knowledge-page";

const cause = (id: string, name: string, over: object = {}) => ({
  id,
  name,
  link: "end-bearings",
  shows: [{ text: "rumble in rapid", level: "often", chance: 0.6 }],
  share: "up to all of it",
  remedy: "tighten",
  minutes: 40,
  costClass: 1,
  normal: false,
  prior: 4,
  override: null,
  overrideBy: "",
  overrideWhy: "",
  learned: 1.1,
  provenance: "common practice, no source",
  ...over,
});
const knowledge = (over: object = {}): Knowledge =>
  ({
    causes: [
      cause("retainer-loose", "Bearing retainer loose", over),
      cause("gib-tight", "Gib too tight", { link: "way", shows: [] }),
    ],
    rules: [],
    closedCases: 1,
    candour: 0.61,
    nothingWrong: 1.07,
  }) as unknown as Knowledge;

describe("what the reasoning knows", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const open = (over: object = {}) => {
    const page = show(KnowledgePage);
    answer(http.expectOne("/api/knowledge"), knowledge(over));
    return page;
  };
  const put = () => http.expectOne({ url: "/api/knowledge/retainer-loose", method: "PUT" });

  it("each cause says how it shows, what mends it and where that is from; it is found by cause or symptom", () => {
    const page = open();
    expect(page.text()).toContain("rumble in rapid (60 %)");
    expect(page.text()).toContain("common practice, no source");
    expect(page.text()).toContain("2 of 2 causes. 1 closed case has moved");
    expect(page.text()).toContain(
      "A case with nothing wrong comes 1.07 times as often here as the shipped weights say.",
    );
    page.type("Find a cause or a symptom", "RUMBLE");
    expect(page.text()).toContain("1 of 2 causes.");
    page.type("Find a cause or a symptom", "way");
    expect(page.text()).toContain("Gib too tight");
    expect(page.text()).toContain("Shows as nothing but its size.");
  });

  it.each([["51"], ["-1"], ["often"], [""]])("a weight of “%s” is refused with its bound", (text) => {
    const page = open();
    page.press("Set our weight of Bearing retainer loose");
    page.type("Weight in this shop", text);
    page.type("Why", "our mills are old");
    page.press("Keep it");
    expect(page.alerts()).toBe(`Weight “${text}” cannot be: it is a number from 0 to 50. Typical: 1 to 6.`);
  });

  it("a weight of the shop’s own wants a reason, and stands beside the shipped one", () => {
    const page = open();
    page.press("Set our weight of Bearing retainer loose");
    page.type("Weight in this shop", "6,5");
    page.press("Keep it");
    expect(page.alerts()).toBe("Say why the shop’s weight differs.");
    page.type("Why", "no thread lock used");
    page.press("Keep it");
    const request = put();
    expect(request.request.body).toEqual({ prior: 6.5, why: "no thread lock used", version: 0 });
    answer(request, knowledge({ override: 6.5, overrideBy: "Ama", overrideWhy: "no thread lock used" }));
    expect(page.text()).toContain("Weight 6.5 (shipped 4; Ama: no thread lock used)");
  });

  it("the shipped weight can count again; what the server refuses leaves the form", () => {
    const said = hearNotices();
    const page = open({ override: 6.5, overrideBy: "Ama", overrideWhy: "old" });
    page.press("Set our weight of Bearing retainer loose");
    expect([page.value("Weight in this shop"), page.value("Why")]).toEqual(["6.5", "old"]);
    page.press("Use the shipped weight");
    const first = put();
    expect(first.request.body).toMatchObject({ prior: null });
    refuse(first, 503, { detail: "The shop is being copied. Try again in a minute." });
    expect(page.alerts()).toContain("The shop is being copied.");
    page.press("Use the shipped weight");
    answer(put(), knowledge());
    expect(said).toEqual(["The shipped weight counts again."]);
  });

  it("no server is said, with a way to try again", () => {
    const page = show(KnowledgePage);
    cut(http.expectOne("/api/knowledge"));
    page.press("Try again");
    answer(http.expectOne("/api/knowledge"), knowledge());
    expect(page.alerts()).toBe("");
  });
});
