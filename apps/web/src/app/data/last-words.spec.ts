import { TestBed } from "@angular/core/testing";
import { setUpBed } from "../../testing/place";
import { Door } from "./door";
import { LastWords } from "./last-words";
import { PAGE } from "./working-as";

describe("what is sent as the page goes", () => {
  it("carries the name, the page, and its token: without it a server that knows people would refuse it", () => {
    setUpBed();
    const fetched = jest.fn(() => Promise.resolve({} as Response));
    Object.assign(window, { fetch: fetched });
    TestBed.inject(Door).take({
      ...{ door: "people", person: { id: 1, name: "Jürgen", sign: "J", role: "technician" }, chooses: false },
      ...{ names: [], token: "t1", seals: [], quietMinutes: 10 },
    });
    TestBed.inject(LastWords).put("/api/cases/5", { notes: "last" });
    expect(fetched).toHaveBeenCalledWith("/api/cases/5", {
      ...{ method: "PUT", keepalive: true, body: '{"notes":"last"}' },
      headers: {
        ...{ "content-type": "application/json", "x-working-as": "J%C3%BCrgen" },
        ...{ "x-page": PAGE, "x-token": "t1" },
      },
    });
    Reflect.deleteProperty(window, "fetch");
  });
});
