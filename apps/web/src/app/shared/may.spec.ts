import type { HttpTestingController } from "@angular/common/http/testing";
import { ChangeDetectionStrategy, Component, signal } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import { ACCESS, type Me, type OperationName, type Role } from "@iron/contract";
import type { Route } from "@angular/router";
import { routes } from "../app.routes";
import { setUpBed, show } from "../../testing/place";
import { Door } from "../data/door";
import { May } from "./may";
import { NotYours } from "./not-yours";

const me = (role: Role): Me => ({
  ...{ door: "people", person: { id: 1, name: "Lark", sign: "LA", role }, chooses: false, names: [] },
  ...{ token: "t1", seals: [], quietMinutes: 10 },
});

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [May, NotYours],
  template: `
    <ip-not-yours does="updateMachine" />
    <button *ipMay="'updateMachine'">Keep the machine</button>
    <button *ipMay="'takeReading'">Take it</button>
    <ng-container *ipMay="'openCase'">
      <label>What it does <input /></label>
      <i>{{ said() }}</i>
    </ng-container>
  `,
})
class Offers {
  readonly said = signal("");
}

describe("what a role may not do", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    http = setUpBed();
  });
  afterEach(() => http.verify());
  const offered = (page: ReturnType<typeof show>) => page.page.queryAllByRole("button").map((b) => b.textContent);

  it("is not offered, and whose it is is said; it is there again for the next who may", () => {
    const door = TestBed.inject(Door);
    const page = show(Offers);
    expect(offered(page)).toEqual(["Keep the machine", "Take it"]);
    door.take(me("look"));
    TestBed.tick();
    expect(offered(page)).toEqual([]);
    expect(page.text()).toContain("To change what stands here is for a planner; Lark is here to look.");
    door.take(me("technician"));
    TestBed.tick();
    expect(offered(page)).toEqual(["Take it"]);
    door.take(me("keeper"));
    TestBed.tick();
    expect(offered(page)).toEqual(["Keep the machine", "Take it"]);
    expect(page.text()).not.toContain("To change");
  });

  it("what is half filled in stays, whoever was there between", () => {
    const door = TestBed.inject(Door);
    door.take(me("technician"));
    const page = show(Offers);
    page.type("What it does", "it growls");
    door.take({ ...me("technician"), person: null });
    TestBed.tick();
    // Behind the door nobody looks at it; it is there.
    expect(page.value("What it does")).toBe("it growls");
    door.take(me("look"));
    TestBed.tick();
    expect(page.page.queryByLabelText("What it does")).toBeNull();
    page.component.said.set("meanwhile");
    door.take(me("technician"));
    TestBed.tick();
    expect(page.value("What it does")).toBe("it growls");
    expect(page.text()).toContain("meanwhile");
  });

  it("a page that is for something only names an operation of the contract that not everybody may do", () => {
    const all = (of: readonly Route[]): Route[] => of.flatMap((r) => [r, ...all(r.children ?? [])]);
    const needs = all(routes).flatMap((r) => (r.data?.["needs"] ? [r.data["needs"] as OperationName] : []));
    expect(needs.length).toBeGreaterThan(8);
    for (const name of needs) expect(["technician", "planner", "keeper"]).toContain(ACCESS[name]);
  });
});
