import { EnvironmentInjector, runInInjectionContext } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import { HttpErrorResponse } from "@angular/common/http";
import type { Me, Problem } from "@iron/contract";
import { Subject } from "rxjs";
import { setUpBed } from "../../testing/place";
import { Door } from "../data/door";
import { Seals } from "../data/seals";
import { Waiting } from "../data/waiting";
import { Outbox, type OnItsWay } from "./outbox";

interface Item extends OnItsWay {
  readonly key: string;
}
const me = (name: string | null): Me => ({
  ...{ door: "people", chooses: false, names: [], token: "t", seals: [], quietMinutes: 10 },
  person: name === null ? null : { id: 1, name, sign: "X", role: "technician" },
});
const failure = (status: number, title = ""): HttpErrorResponse =>
  new HttpErrorResponse({ status, error: status ? { title, status, detail: title } : null });

describe("what is on its way", () => {
  let sent: { readonly item: Item; readonly answer: Subject<string> }[];
  let refused: string[];
  let sealing: Promise<string | null> | null;
  const of = (key: string, by = "Ilse"): Item => ({ key, by });
  const make = (inOrder = false): Outbox<Item, string> =>
    runInInjectionContext(
      TestBed.inject(EnvironmentInjector),
      () =>
        new Outbox<Item, string>({
          ...{ keyOf: (i) => i.key, sealable: () => ({ address: "/api", body: "" }), taken: () => undefined, inOrder },
          send: (item) => {
            const answer = new Subject<string>();
            sent.push({ item, answer });
            return answer;
          },
          refused: (p: Problem, i) => void refused.push(`${i.key}: ${p.detail}`),
        }),
    );
  const enter = (name: string | null): void => {
    TestBed.inject(Door).take(me(name));
    TestBed.tick();
  };
  const keys = (): string[] => sent.map(({ item }) => item.key);
  beforeEach(() => {
    [sent, refused, sealing] = [[], [], null];
    setUpBed({ provide: Seals, useValue: { seal: () => sealing } });
    enter("Ilse");
  });

  it("of somebody else waits for them, and lets the rest pass; how much waits, and for whom, is known", () => {
    const box = make();
    const { count, names } = TestBed.inject(Waiting);
    enter("Rowan");
    box.add(of("a"));
    sent[0].answer.error(failure(403, "Another’s work"));
    box.add(of("b", "Rowan"));
    expect(keys()).toEqual(["a", "b"]);
    expect([count(), names(), box.waitsFor()]).toEqual([2, ["Ilse"], ["Ilse"]]);
    sent[1].answer.next("taken");
    box.flush();
    expect([keys(), refused]).toEqual([["a", "b"], []]);
    enter("Ilse");
    expect(keys()).toEqual(["a", "b", "a"]);
    sent[2].answer.next("taken");
    expect([box.waiting(), count(), names()]).toEqual([[], 0, []]);
  });

  it("where each stands on what went before, the rest waits too", () => {
    const box = make(true);
    enter("Rowan");
    box.add(of("a"));
    sent[0].answer.error(failure(403, "PIN again"));
    box.add(of("b", "Rowan"));
    expect(keys()).toEqual(["a"]);
    enter("Ilse");
    expect(keys()).toEqual(["a", "a"]);
    // Asked of who is here themselves, and not given: told, and let go.
    sent[1].answer.error(failure(403, "PIN again"));
    expect(refused).toEqual(["a: PIN again"]);
    expect(keys()).toEqual(["a", "a", "b"]);
  });

  it("at a shut door nothing is sent, and nothing is lost; it goes once somebody is in", () => {
    const box = make();
    box.add(of("a"));
    sent[0].answer.error(failure(401, "Sign in"));
    enter(null);
    box.add(of("b"));
    box.flush();
    expect([keys(), box.waiting().length, refused]).toEqual([["a"], 2, []]);
    enter("Rowan");
    expect(keys()).toEqual(["a", "a"]);
  });

  it("is sealed before it goes, and goes without where there is no seal", async () => {
    const box = make();
    let give: (seal: string | null) => void = () => undefined;
    sealing = new Promise((done) => (give = done));
    box.add(of("a"));
    expect([keys(), box.waiting().length]).toEqual([[], 1]);
    give("sealed");
    await Promise.resolve();
    await sealing;
    await new Promise((r) => setTimeout(r));
    expect(sent[0].item).toEqual({ key: "a", by: "Ilse", seal: "sealed" });
    sent[0].answer.next("taken");
    sealing = Promise.reject(new Error("no key"));
    box.add(of("b"));
    await new Promise((r) => setTimeout(r));
    expect(sent[1].item).toEqual({ key: "b", by: "Ilse" });
  });

  it("what an earlier page left is taken up once, before what is new", () => {
    const box = make();
    box.add(of("c"));
    box.recall([of("a"), of("c")]);
    expect(box.waiting().map((w) => w.key)).toEqual(["a", "c"]);
    sent[0].answer.error(failure(0));
    expect(box.offline()).toBe(true);
  });

  it("what nobody can send any more is let go, and what stood on it goes then", () => {
    const box = make(true);
    enter("Rowan");
    box.add(of("a"));
    sent[0].answer.error(failure(403, "Another’s work"));
    box.add(of("b", "Rowan"));
    expect(box.held().map(({ key, by, after }) => [key, by, after])).toEqual([
      ["a", "Ilse", null],
      ["b", "Rowan", "Ilse"],
    ]);
    box.letGo("nothing of that key");
    expect(keys()).toEqual(["a"]);
    box.letGo("a");
    expect(keys()).toEqual(["a", "b"]);
    sent[1].answer.next("taken");
    expect([box.waiting(), refused]).toEqual([[], []]);
  });
});
