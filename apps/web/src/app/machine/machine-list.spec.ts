import type { HttpTestingController } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Router } from "@angular/router";
import { MessageService } from "primeng/api";
import type { MachineListAnswer } from "@iron/contract";
import type { Offer } from "../data/notices";
import { answer, cut, setUpBed, show } from "../../testing/place";
import { MachineListPage } from "./machine-list";

const machine = (over: Partial<MachineListAnswer["machines"][number]> = {}): MachineListAnswer["machines"][number] => ({
  line: 2,
  nickname: "Siskin",
  bay: "31",
  kind: "router",
  letters: ["X", "Y", "Z"],
  points: 20,
  minutes: 300,
  lastDone: null,
  there: false,
  ...over,
});
const said = (over: Partial<MachineListAnswer> = {}): MachineListAnswer => ({
  machines: [machine(), machine({ line: 3, nickname: "Linnet", lastDone: "2026-03-02" })],
  errors: [],
  ids: [],
  firstWeeks: { minutes: 300, available: 1800 },
  ...over,
});

describe("machines from a list", () => {
  let http: HttpTestingController;
  let gone: string[];
  const offers: Offer[] = [];
  beforeEach(() => {
    http = setUpBed();
    gone = [];
    offers.length = 0;
    jest.spyOn(TestBed.inject(Router), "navigateByUrl").mockImplementation((url) => {
      gone.push(url.toString());
      return Promise.resolve(true);
    });
    jest.spyOn(TestBed.inject(MessageService), "add").mockImplementation((message) => {
      const { offer } = (message.data ?? {}) as { offer?: Offer };
      if (offer) offers.push(offer);
    });
  });
  afterEach(() => http.verify());

  async function open(first = said(), size = 10) {
    const page = show(MachineListPage);
    const file = { name: "shop.csv", size, text: () => Promise.resolve("machine;bay") } as unknown as File;
    const field = page.page.getByLabelText<HTMLInputElement>("List, as a CSV file");
    Object.defineProperty(field, "files", { value: [file] });
    // A field of files takes no value but an empty one.
    Object.defineProperty(field, "value", { value: "", writable: true });
    field.dispatchEvent(new Event("change"));
    await Promise.resolve();
    TestBed.tick();
    if (size <= 1_000_000) {
      const request = http.expectOne("/api/machines/list");
      expect(request.request.body).toMatchObject({ text: "machine;bay", preview: true });
      answer(request, first);
    }
    return page;
  }

  it("are all seen first, with what the first weeks take; what is not wanted is left out; then kept in one act, with undo", async () => {
    const page = await open();
    expect(page.text()).toContain("2 machines, 40 points");
    expect(page.text()).toContain(
      "due within the first weeks: 5 h of work; in four weeks people have 30 h for rounds.",
    );
    page.page.getByRole("checkbox", { name: "Siskin" }).click();
    TestBed.tick();
    expect(page.text()).toContain("1 machine, 20 points");
    expect(page.text()).not.toContain("due within the first weeks");
    page.press("Add this machine");
    const request = http.expectOne("/api/machines/list");
    expect(request.request.body).toMatchObject({ preview: false, leaveOut: ["Siskin"] });
    answer(request, said({ ids: [41] }));
    expect(gone).toEqual(["/floor"]);
    offers[0].press();
    const back = http.expectOne("/api/machines/list/back");
    expect(back.request.body).toEqual({ ids: [41] });
    answer(back, { retired: 1 });
  });

  it("name what is wrong by line, say what would be left out, and what is there already", async () => {
    const page = await open(
      said({
        machines: [machine({ there: true })],
        errors: [
          { line: 4, column: "kind", message: "“shaper” is none of: router." },
          { line: 4, column: "axes", message: "X is there twice." },
        ],
      }),
    );
    expect(page.alerts()).toContain("1 line is wrong and would be left out.");
    expect(page.alerts()).toContain("Line 4, kind: “shaper” is none of: router.");
    expect(page.text()).toContain("No machine to add");
    expect(page.page.getByRole<HTMLButtonElement>("button", { name: "Add these 0 machines" }).disabled).toBe(true);
  });

  it("more work than there is time for is said before it is planned", async () => {
    const page = await open(said({ firstWeeks: { minutes: 300, available: 120 } }));
    expect(page.text()).toContain("Say when machines were last done, or give the rounds more time.");
  });

  it("a file that is too large is not sent; a line that was cut can be tried again with nothing lost", async () => {
    expect((await open(said(), 2_000_000)).alerts()).toContain("shop.csv is larger than 1 MB.");
    const page = await open();
    page.press("Add these 2 machines");
    cut(http.expectOne("/api/machines/list"));
    expect(page.alerts()).not.toBe("");
    page.press("Try again");
    answer(http.expectOne("/api/machines/list"), said());
    expect(page.text()).toContain("2 machines, 40 points");
  });
});
