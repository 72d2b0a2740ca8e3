import { ChangeDetectionStrategy, Component, signal } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import { TextField } from "./fields";
import { Opens } from "./opens";

@Component({
  imports: [Opens, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button type="button">Give up</button>
    @if (open()) {
      <form ipOpens>
        <ip-text-field label="Why" value="" />
      </form>
    }
  `,
})
class Page {
  readonly open = signal(false);
}

describe("a form that a press opens", () => {
  it("is scrolled to, and its first field has the keyboard", async () => {
    const shown: Element[] = [];
    Element.prototype.scrollIntoView = function (this: Element) {
      shown.push(this);
    };
    const page = TestBed.createComponent(Page);
    document.body.append(page.nativeElement as HTMLElement);
    await page.whenStable();
    expect(shown).toEqual([]);
    page.componentInstance.open.set(true);
    await page.whenStable();
    expect(shown.map((e) => e.tagName)).toEqual(["FORM"]);
    expect(document.activeElement?.id).toBe(document.querySelector("label")?.htmlFor);
  });
});
