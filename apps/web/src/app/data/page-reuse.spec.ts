import { ChangeDetectionStrategy, Component, input } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import { provideRouter, RouteReuseStrategy, RouterOutlet, withComponentInputBinding } from "@angular/router";
import { RouterTestingHarness } from "@angular/router/testing";
import { PageReuse } from "./page-reuse";

let made = 0;

@Component({ changeDetection: ChangeDetectionStrategy.OnPush, template: "{{ n }}: {{ pointId() }}" })
class Point {
  readonly pointId = input.required<string>();
  readonly n = (made += 1);
}

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterOutlet],
  template: "{{ n }}: {{ machineId() }} {{ axisId() }} <router-outlet />",
})
class Frame {
  readonly machineId = input.required<string>();
  readonly axisId = input.required<string>();
  readonly n = (made += 1);
}

describe("pages and their addresses", () => {
  let harness: RouterTestingHarness;
  const at = async (url: string): Promise<string> => {
    await harness.navigateByUrl(url);
    return harness.routeNativeElement?.textContent.trim() ?? "";
  };
  beforeEach(async () => {
    made = 0;
    TestBed.configureTestingModule({
      providers: [
        provideRouter(
          [
            { path: "points/:pointId", component: Point },
            {
              ...{ path: "machines/:machineId/axes/:axisId", component: Frame, data: { stays: "axisId" } },
              children: [{ path: "runs/:pointId", component: Point }],
            },
          ],
          withComponentInputBinding(),
        ),
        { provide: RouteReuseStrategy, useClass: PageReuse },
      ],
    });
    harness = await RouterTestingHarness.create();
  });

  it("another point is another page; what is asked of the same is not", async () => {
    expect(await at("/points/7")).toBe("1: 7");
    expect(await at("/points/7?fold=checks")).toBe("1: 7");
    expect(await at("/points/8")).toBe("2: 8");
  });

  it("the frame stays for another axis of its machine, not for another machine; what is in it is another page", async () => {
    expect(await at("/machines/1/axes/2/runs/5")).toBe("1: 1 2 2: 5");
    expect(await at("/machines/1/axes/3/runs/5")).toBe("1: 1 3 2: 5");
    expect(await at("/machines/1/axes/3/runs/6")).toBe("1: 1 3 3: 6");
    expect(await at("/machines/4/axes/9/runs/6")).toBe("4: 4 9 5: 6");
  });
});
