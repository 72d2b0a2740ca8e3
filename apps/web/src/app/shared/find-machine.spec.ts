import type { HttpTestingController } from "@angular/common/http/testing";
import { ChangeDetectionStrategy, Component } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import { provideRouter, Router } from "@angular/router";
import { answer, cut, setUpBed, show } from "../../testing/place";
import { FindMachine } from "./find-machine";
import { Keys } from "./keys";

@Component({ template: "", changeDetection: ChangeDetectionStrategy.OnPush })
class Elsewhere {}

const machine = (id: number, nickname: string, bay: string) => ({
  id,
  nickname,
  bay,
  axes: [{ id: 10 * id, letter: "X" }],
});
const FLOOR = { machines: [machine(1, "Bittern", "2"), machine(2, "Wren", "4")] };

describe("finding a machine", () => {
  let http: HttpTestingController;
  beforeEach(() => {
    jest.useFakeTimers();
    http = setUpBed(
      provideRouter([
        { path: "sums", component: Elsewhere },
        { path: "floor", component: Elsewhere },
        { path: "machines/:id", component: Elsewhere },
      ]),
    );
  });
  afterEach(() => {
    http.verify();
    jest.useRealTimers();
  });
  const settle = async (): Promise<void> => {
    await jest.advanceTimersByTimeAsync(400);
    TestBed.tick();
  };
  const open = async (at: string) => {
    await TestBed.inject(Router).navigateByUrl(at);
    const page = show(FindMachine);
    await settle();
    const field = page.page.getByRole<HTMLInputElement>("combobox");
    const key = async (name: string): Promise<void> => {
      field.dispatchEvent(new KeyboardEvent("keydown", { key: name, code: name, bubbles: true }));
      await settle();
    };
    return { page, field, key, url: () => TestBed.inject(Router).url };
  };
  const typeIn = async (field: HTMLInputElement, text: string): Promise<void> => {
    field.focus();
    field.value = text;
    field.dispatchEvent(new Event("input", { bubbles: true }));
    await settle();
  };

  it("the floor is asked for once, and only when somebody looks for something", async () => {
    const { field } = await open("/sums");
    http.expectNone("/api/floor");
    await typeIn(field, "bit");
    answer(http.expectOne("/api/floor"), FLOOR);
    await settle();
    await typeIn(field, "wren");
    http.expectNone("/api/floor");
    expect(document.body.textContent).toContain("Wren");
  });

  it("Enter goes to the first of that name, and takes nothing that was found for an earlier text", async () => {
    const { field, key, url } = await open("/sums");
    await typeIn(field, "bittern");
    answer(http.expectOne("/api/floor"), FLOOR);
    await settle();
    field.value = "wren";
    field.dispatchEvent(new Event("input", { bubbles: true }));
    await key("Enter");
    expect(url()).toContain("/machines/2");
  });

  it("a name that nobody has leads to the floor, which says so", async () => {
    const { field, key, url } = await open("/sums");
    await typeIn(field, "heron");
    answer(http.expectOne("/api/floor"), FLOOR);
    await key("Enter");
    expect(url()).toBe("/floor?q=heron");
  });

  it("on the floor itself what is typed filters it, by its address", async () => {
    const { field, url } = await open("/floor");
    await typeIn(field, "wr");
    expect(url()).toBe("/floor?q=wr");
    await typeIn(field, "");
    expect(url()).toBe("/floor");
    http.expectNone("/api/floor");
  });

  it("where the server does not answer, nothing is found, and nothing else breaks", async () => {
    const { field, key, url } = await open("/sums");
    await typeIn(field, "wren");
    cut(http.expectOne("/api/floor"));
    await key("Enter");
    expect(url()).toBe("/floor?q=wren");
  });

  it("its key is in the list of keys, and brings one to it", async () => {
    const { field } = await open("/sums");
    const entry = TestBed.inject(Keys)
      .all()
      .find((k) => k.key === "/");
    expect(entry?.does).toBe("Find a machine");
    entry?.press();
    expect(document.activeElement).toBe(field);
  });
});
