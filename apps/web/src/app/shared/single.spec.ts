import { ChangeDetectionStrategy, Component } from "@angular/core";
import { setUpBed, show } from "../../testing/place";
import { Single } from "./single";

@Component({
  imports: [Single],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (submit)="sent($event)">
      <button ipSingle type="submit">Sign</button>
      <button ipSingle type="button" (click)="back()">Back</button>
    </form>
  `,
})
class Form {
  readonly did: string[] = [];

  protected sent(event: Event): void {
    event.preventDefault();
    this.did.push("sent");
  }

  protected back(): void {
    this.did.push("back");
  }
}

describe("a press that brings the next thing under the same finger", () => {
  beforeEach(() => setUpBed());

  it("counts once of a double one, by mouse or finger; each by keys, which no browser counts", () => {
    const { page, component } = show(Form);
    const press = (name: string, detail: number): void => {
      page
        .getByRole("button", { name })
        .dispatchEvent(new MouseEvent("click", { detail, bubbles: true, cancelable: true }));
    };
    press("Sign", 1);
    press("Sign", 2);
    press("Back", 1);
    press("Back", 2);
    press("Back", 3);
    expect(component.did).toEqual(["sent", "back"]);
    press("Back", 0);
    press("Back", 0);
    press("Sign", 1);
    expect(component.did).toEqual(["sent", "back", "back", "back", "sent"]);
  });
});
