import type { HttpTestingController } from "@angular/common/http/testing";
import { ChangeDetectionStrategy, Component } from "@angular/core";
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
  ...{ token: "t1", quietMinutes: 10 },
});

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [May, NotYours],
  template: `
    <ip-not-yours does="updateMachine" />
    <button *ipMay="'updateMachine'">Keep the machine</button>
    <button *ipMay="'takeReading'">Take it</button>
  `,
})
class Offers {}

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

  it("a page that is for something only names an operation of the contract that not everybody may do", () => {
    const all = (of: readonly Route[]): Route[] => of.flatMap((r) => [r, ...all(r.children ?? [])]);
    const needs = all(routes).flatMap((r) => (r.data?.["needs"] ? [r.data["needs"] as OperationName] : []));
    expect(needs.length).toBeGreaterThan(8);
    for (const name of needs) expect(["technician", "planner", "keeper"]).toContain(ACCESS[name]);
  });
});
