import { TestBed } from "@angular/core/testing";
import { SUMS } from "@iron/core";
import temml from "temml";
import { Formula } from "./formula";

describe("formulas", () => {
  it.each(SUMS.map((s) => [s.id, s.formula]))("%s is set without a fault", (_, tex) => {
    expect(temml.renderToString(tex, { throwOnError: true })).toMatch(/^<math/);
  });

  it("stand on the page as MathML that can be read aloud", () => {
    const made = TestBed.createComponent(Formula);
    made.componentRef.setInput("tex", String.raw`n = \dfrac{f\, d}{L^2}`);
    made.detectChanges();
    const shown = made.nativeElement as HTMLElement;
    expect(shown.querySelector("math mfrac msup")?.textContent).toBe("L2");
  });
});
