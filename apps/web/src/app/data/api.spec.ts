import { provideHttpClient } from "@angular/common/http";
import { HttpTestingController, provideHttpClientTesting } from "@angular/common/http/testing";
import { TestBed } from "@angular/core/testing";
import { Api } from "./api";

describe("operations called by name", () => {
  const set = () => {
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting()] });
    return { api: TestBed.inject(Api), http: TestBed.inject(HttpTestingController) };
  };

  it("go to the path and by the method of the contract, with what is asked for and what is sent", () => {
    const { api, http } = set();
    api.call("floor").subscribe();
    expect(http.expectOne("/api/floor").request.method).toBe("GET");
    api.call("retirePoint", { params: { id: 7 }, body: { retired: true } }).subscribe();
    const retired = http.expectOne("/api/lube-points/7/retire").request;
    expect([retired.method, retired.body]).toEqual(["POST", { retired: true }]);
    api.call("diagnosis", { params: { id: 3 }, query: { axis: 2, system: "inch" } }).subscribe();
    http.expectOne("/api/cases/3/assessment?axis=2&system=inch");
  });

  it("what stands in an address cannot lead elsewhere", () => {
    const { api } = set();
    expect(api.address("importState", { params: { key: "../shop?x=1" } })).toBe("/api/imports/..%2Fshop%3Fx%3D1");
    expect(api.address("exportRun", { params: { id: 4 }, query: { format: "csv", system: undefined } })).toBe(
      "/api/runs/4/export?format=csv",
    );
  });

  it("a name that no header may hold is sent all the same, and only when it is another’s", () => {
    const { api, http } = set();
    api.call("reviveMachine", { params: { id: 1 }, by: "Ñusta ✓" }).subscribe();
    const said = http.expectOne("/api/machines/1/revive").request.headers.get("x-working-as");
    expect(decodeURIComponent(said ?? "")).toBe("Ñusta ✓");
    api.call("reviveMachine", { params: { id: 2 } }).subscribe();
    expect(http.expectOne("/api/machines/2/revive").request.headers.has("x-working-as")).toBe(false);
  });

  it("a file is taken as text, as it is", () => {
    const { api, http } = set();
    let text = "";
    api.call("gcode", { params: { id: 9 }, query: { side: "0.5" } as never }).subscribe((t) => (text = t));
    http.expectOne("/api/runs/9/gcode?side=0.5").flush("%\nO1000\n");
    expect(text).toContain("O1000");
  });
});
