import { provideHttpClient } from "@angular/common/http";
import { provideHttpClientTesting } from "@angular/common/http/testing";
import { TestBed, type ComponentFixture } from "@angular/core/testing";
import { provideRouter } from "@angular/router";
import type { Job } from "@iron/contract";
import {
  DEFAULT_OPTIONS,
  defaultAxis,
  jobProgress,
  planJob,
  USUAL_CIRCLE_LIMITS,
  type JobEvent,
  type JobKindId,
  type PlannedStep,
  type SignedStep,
} from "@iron/core";
import { within } from "@testing-library/dom";
import { chooseIn } from "../../testing/place";
import { JobStore } from "./job-store";
import { circlePlane, circleSession, leaning } from "../../testing/circle";
import { newSign } from "../../testing/signed";
import { StepCard } from "./step-card";

const config = defaultAxis("vertical-centre", "X");

function jobOf(kind: JobKindId): Job {
  const options = { ...DEFAULT_OPTIONS, circle: true };
  const plan = planJob({ axes: [{ letter: "X", config }], items: [{ letter: "X", kind }], options });
  const axis = {
    axisId: 1,
    letter: "X",
    before: { reversalValueMm: 0.031, expandedMm: 0.002, placeMm: 300, runId: 4 },
    leaveMm: 0.01,
    repairMm: 0.02,
  };
  return {
    id: 1,
    machineId: 2,
    axes: [axis],
    items: [],
    plan,
    events: [],
    photos: [],
    openedAt: "2026-03-03T08:00:00Z",
    finishedAt: null,
  } as unknown as Job;
}

/** The card of the first step that is as asked, with everything before it signed. */
function show(kind: JobKindId, want: (step: PlannedStep) => boolean) {
  const job = jobOf(kind);
  const at = job.plan.steps.findIndex(want);
  const signs = job.plan.steps.slice(0, at).map((s): JobEvent => ({ kind: "sign", ...newSign(s) }));
  const fixture = TestBed.createComponent(StepCard);
  const put = (of: Job, signed: readonly JobEvent[]): void => {
    fixture.componentRef.setInput("step", of.plan.steps[at]);
    fixture.componentRef.setInput("job", of);
    fixture.componentRef.setInput("progress", jobProgress(of.plan, signed));
    TestBed.tick();
  };
  put(job, signs);
  const sent: SignedStep[] = [];
  fixture.componentInstance.signed.subscribe((s) => sent.push(s));
  /** The server’s answer to an earlier step: the same job, made of new objects. */
  const answer = (): void => put(JSON.parse(JSON.stringify(job)) as Job, signs);
  return { fixture, sent, answer };
}

const rootOf = (fixture: ComponentFixture<StepCard>) => fixture.nativeElement as HTMLElement;
function field(fixture: ComponentFixture<StepCard>, name: string | RegExp): HTMLInputElement {
  return within(rootOf(fixture)).getByLabelText<HTMLInputElement>(name);
}
function type(fixture: ComponentFixture<StepCard>, name: string | RegExp, text: string): void {
  const input = field(fixture, name);
  input.value = text;
  input.dispatchEvent(new Event("input"));
  TestBed.tick();
}
/** The reading’s field is called by what is read, in its unit. */
function readingName(fixture: ComponentFixture<StepCard>): string {
  const step = fixture.componentInstance.step();
  return within(rootOf(fixture)).getByText((text) => text.startsWith(step.reading?.label ?? "no reading")).textContent;
}
function sign(fixture: ComponentFixture<StepCard>): void {
  rootOf(fixture).querySelector("form")?.dispatchEvent(new Event("submit"));
  TestBed.tick();
}
/** Chooses the shop’s indicator for a loss that is typed. */
function measuredWith(fixture: ComponentFixture<StepCard>): void {
  const one = {
    id: 4,
    name: "Digital",
    kind: "digital",
    resolutionMm: 0.001,
    unit: "mm",
    tipAngleDeg: 0,
    rangeMm: 10,
    version: 1,
    retiredAt: null,
  } as const;
  TestBed.inject(JobStore).indicators.set([one]);
  TestBed.tick();
  chooseIn(fixture, "measured with", "4");
}
const alertIn = (fixture: ComponentFixture<StepCard>) =>
  rootOf(fixture).querySelector("[role=alert]")?.textContent ?? "";

describe("a step at the machine", () => {
  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [JobStore, provideRouter([]), provideHttpClient(), provideHttpClientTesting()],
    });
  });

  it("says why it cannot be signed, and goes on saying it when the answer to the step before arrives", () => {
    const { fixture, sent, answer } = show("fixed-bearings", (s) => !!s.hold);
    sign(fixture);
    expect(alertIn(fixture)).toContain("who vouches for it");
    answer();
    expect(alertIn(fixture)).toContain("who vouches for it");
    expect(sent).toEqual([]);
    type(fixture, /^Who vouches/, "Tomas");
    expect(alertIn(fixture)).toBe("");
    answer();
    expect(field(fixture, /^Who vouches/).value).toBe("Tomas");
    sign(fixture);
    expect(sent.map((s) => s.holdBy)).toEqual(["Tomas"]);
  });

  it("keeps what is typed while an answer arrives, and takes it with the signature", () => {
    const { fixture, sent, answer } = show("fixed-bearings", (s) => s.retest === "chain");
    measuredWith(fixture);
    type(fixture, /^or type the loss/, "2");
    type(fixture, "runs each way", "8");
    answer();
    expect(field(fixture, /^or type the loss/).value).toBe("2");
    expect(field(fixture, "runs each way").value).toBe("8");
    sign(fixture);
    expect(alertIn(fixture)).toBe("");
    // GUM by hand: two steps of 1 µm and 3 µm of usual scatter over eight runs each way, k = 2.
    const u = Math.sqrt(2 * (0.001 ** 2 / 12) + (2 * 0.003 ** 2) / 8);
    expect(sent[0].figure).toEqual({
      reversalValueMm: expect.closeTo(0.002, 9) as number,
      expandedMm: expect.closeTo(2 * u, 7) as number,
      runId: null,
    });
  });

  it("a loss typed without saying with what has no U, and does not pass by itself", () => {
    const { fixture, sent } = show("fixed-bearings", (s) => s.retest === "chain");
    type(fixture, /^or type the loss/, "2");
    expect(rootOf(fixture).textContent).toContain("uncertainty unknown after");
    sign(fixture);
    expect(alertIn(fixture)).toContain("does not pass");
    expect(sent).toEqual([]);
  });

  it("a circle read since the work was done is taken over as the retest, and said to pass or not", () => {
    const { fixture, sent } = show("tighten", (s) => s.retest === "circle");
    sign(fixture);
    expect(rootOf(fixture).textContent).toContain("The retest has no circle yet");
    expect(rootOf(fixture).textContent).toContain("Looking for circles taken since");
    TestBed.inject(JobStore).circlesFailed.set("The server does not answer.");
    TestBed.tick();
    expect(within(rootOf(fixture)).getByRole("button", { name: /again/i })).toBeTruthy();
    TestBed.inject(JobStore).circlesFailed.set("");
    const plane = circlePlane([leaning(1, 0, 0.06), leaning(-1, 0, 0.06)]);
    const at = (id: number, startedAt: string) => circleSession([plane], { id, state: "finished", startedAt });
    const limits = { limits: USUAL_CIRCLE_LIMITS, why: "", by: "", at: null };
    const sessions = [at(4, "2026-03-01T08:00:00Z"), at(5, "2026-03-03T11:00:00Z")];
    TestBed.inject(JobStore).circles.set({ sessions, limits });
    TestBed.tick();
    const use = within(rootOf(fixture)).getAllByRole("button", { name: /^Use circle 5, XY/ });
    expect(use).toHaveLength(1);
    use[0].click();
    TestBed.tick();
    expect(use[0].getAttribute("aria-pressed")).toBe("true");
    expect(rootOf(fixture).textContent).toContain("Does not pass. Circle XY at 1000 mm/min. X loses");
    sign(fixture);
    expect(sent).toEqual([]);
    type(fixture, "Reason to go on all the same", "roughing only");
    type(fixture, "Who vouches, first name", "Ama");
    sign(fixture);
    expect(sent.at(-1)?.circle).toMatchObject({ sessionId: 5, before: { at: "2026-03-01T08:00:00Z" } });
  });

  it("a retest that does not pass asks for a reason, which an answer does not take away", () => {
    const { fixture, sent, answer } = show("fixed-bearings", (s) => s.retest === "chain");
    type(fixture, /^or type the loss/, "31");
    sign(fixture);
    expect(alertIn(fixture)).toContain("does not pass");
    answer();
    expect(field(fixture, /^(How it goes on|Reason to go on)/)).toBeTruthy();
    type(fixture, /^(How it goes on|Reason to go on)/, "roughing only");
    sign(fixture);
    // Without a name it is refused, and both fields stay to be filled.
    expect(alertIn(fixture)).toBe("A deviation is accepted by name.");
    expect(field(fixture, /^(How it goes on|Reason to go on)/).value).toBe("roughing only");
    type(fixture, /^Who vouches/, "Ama");
    sign(fixture);
    expect(sent.map((s) => s.reason)).toEqual(["roughing only"]);
  });

  it.each([
    ["12..5", "is not a number"],
    ["soft", "is not a number"],
  ])("a reading of %s is refused with its words", (text, words) => {
    const { fixture, sent } = show("fixed-bearings", (s) => !!s.reading);
    type(fixture, readingName(fixture), text);
    sign(fixture);
    expect(alertIn(fixture)).toContain(`“${text}”`);
    expect(alertIn(fixture)).toContain(words);
    expect(field(fixture, readingName(fixture)).value).toBe(text);
    expect(sent).toEqual([]);
  });

  it("runs that cannot be are refused", () => {
    const { fixture, sent } = show("fixed-bearings", (s) => s.retest === "chain");
    measuredWith(fixture);
    type(fixture, /^or type the loss/, "6");
    type(fixture, "runs each way", "-1");
    sign(fixture);
    expect(alertIn(fixture)).toContain("Runs -1 cannot be");
    expect(sent).toEqual([]);
  });

  it("what must be found is asked for before it is signed", () => {
    const { fixture, sent } = show("fixed-bearings", (s) => s.finds.length > 0);
    sign(fixture);
    expect(alertIn(fixture)).not.toBe("");
    rootOf(fixture).querySelector<HTMLInputElement>("input[type=radio]")?.click();
    TestBed.tick();
    sign(fixture);
    expect(sent).toHaveLength(1);
    expect(sent[0].found).toBeTruthy();
  });
});
