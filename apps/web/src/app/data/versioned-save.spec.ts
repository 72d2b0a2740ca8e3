import { TestBed } from "@angular/core/testing";
import { HttpErrorResponse } from "@angular/common/http";
import { Subject, throwError } from "rxjs";
import { Loaded } from "./loaded";
import { VersionedSave } from "./versioned-save";

interface Thing {
  readonly version: number;
  readonly name: string;
}
const conflict = (current: Thing) =>
  new HttpErrorResponse({ status: 409, error: { detail: "Changed meanwhile.", status: 409, current } });

describe("saving what several people can edit", () => {
  it("goes out with the version it began from, once at a time", () => {
    const save = new VersionedSave<Thing>();
    save.begin({ version: 3 });
    const answer = new Subject<string>();
    const sent: number[] = [];
    const done: string[] = [];
    const send = (): void =>
      save.send(
        (version) => {
          sent.push(version);
          return answer;
        },
        (a) => void done.push(a),
      );
    send();
    send();
    expect([sent, save.busy()]).toEqual([[3], true]);
    answer.next("kept");
    expect([done, save.busy(), save.message()]).toEqual([["kept"], false, ""]);
  });

  it("where somebody was faster shows theirs, and sent again goes over it knowingly", () => {
    const save = new VersionedSave<Thing>();
    save.begin({ version: 3 });
    const theirs = { version: 9, name: "theirs" };
    save.send(
      () => throwError(() => conflict(theirs)),
      () => undefined,
    );
    expect([save.theirs(), save.message(), save.busy()]).toEqual([theirs, "Changed meanwhile.", false]);
    let version = 0;
    const answer = new Subject<null>();
    save.send(
      (v) => {
        version = v;
        return answer;
      },
      () => undefined,
    );
    answer.next(null);
    expect([version, save.theirs(), save.message()]).toEqual([9, null, ""]);
  });

  it("another refusal is said and shows nobody’s version", () => {
    const save = new VersionedSave<Thing>();
    const refused: number[] = [];
    save.send(
      () => throwError(() => new HttpErrorResponse({ status: 422, error: { detail: "No.", status: 422 } })),
      () => undefined,
      (p) => void refused.push(p.status),
    );
    expect([save.theirs(), save.message(), refused]).toEqual([null, "No.", [422]]);
  });
});

describe("loading what a place shows", () => {
  it("an answer that was overtaken counts no more; what went wrong is said and goes with the next", () => {
    const answers: Subject<string>[] = [];
    const loaded = TestBed.runInInjectionContext(() =>
      Loaded.now(() => {
        const answer = new Subject<string>();
        answers.push(answer);
        return answer;
      }),
    );
    loaded.again();
    answers[0].next("old");
    answers[1].next("new");
    expect(loaded.value()).toBe("new");
    loaded.again();
    answers[2].error(new HttpErrorResponse({ status: 0 }));
    expect(loaded.message()).toContain("The server does not answer.");
    loaded.again();
    expect([loaded.message(), loaded.value()]).toEqual(["", "new"]);
  });
});
