import { TestBed } from "@angular/core/testing";
import { provideRouter, Router } from "@angular/router";
import { Onward, placeOf } from "./onward";

describe("going on once the answer is there", () => {
  let router: Router;
  beforeEach(async () => {
    TestBed.configureTestingModule({ providers: [provideRouter([{ path: "**", children: [] }])] });
    router = TestBed.inject(Router);
    await router.navigateByUrl("/machines/new?like=3");
  });

  it("goes on for who still waits, also where what is asked in the address has changed", async () => {
    const onward = TestBed.inject(Onward).fromHere();
    await router.navigateByUrl("/machines/new?like=4");
    onward("/machines/9");
    expect(placeOf(router)).toBe("/machines/9");
  });

  it("leaves who has gone elsewhere, or is on the way, where they are", async () => {
    const onward = TestBed.inject(Onward).fromHere();
    const going = router.navigateByUrl("/floor");
    onward("/machines/9");
    expect(placeOf(router)).toBe("/floor");
    await going;
    onward("/machines/9");
    expect(router.url).toBe("/floor");
  });
});
