import { ChangeDetectionStrategy, Component, inject } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import type { Role } from "@iron/contract";
import { setUpBed } from "../../testing/place";
import { Door } from "../data/door";
import { Keys } from "./keys";

const pressed: string[] = [];

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<input aria-label="Field" /><button type="button">Go</button>
    <details><summary>More</summary></details>`,
})
class Page {
  constructor() {
    inject(Keys).use(
      { key: "u", shown: "U", does: "Units", press: () => pressed.push("page u") },
      { key: " ", shown: "Space", does: "Take", press: () => pressed.push("take") },
    );
  }
}

@Component({ template: "", changeDetection: ChangeDetectionStrategy.OnPush })
class Panel {
  constructor() {
    inject(Keys).use({ key: "u", shown: "U", does: "Up", press: () => pressed.push("panel u") });
  }
}

describe("the one register of keys", () => {
  const open = () => {
    const fixture = TestBed.createComponent(Page);
    document.body.append(fixture.nativeElement as HTMLElement);
    TestBed.tick();
    return fixture.nativeElement as HTMLElement;
  };
  const press = (key: string, at: Element = document.body, init: KeyboardEventInit = {}): KeyboardEvent => {
    const event = new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true, ...init });
    at.dispatchEvent(event);
    return event;
  };
  beforeEach(() => {
    setUpBed();
    pressed.length = 0;
    document.body.replaceChildren();
  });

  it("a key does what its entry says, in either case, and the browser does nothing more", () => {
    open();
    expect(press("u").defaultPrevented).toBe(true);
    press("U");
    expect(pressed).toEqual(["page u", "page u"]);
    expect(press("q").defaultPrevented).toBe(false);
  });

  it("no key works in a field, with a modifier, or when somebody else has taken it", () => {
    const page = open();
    press("u", page.querySelector("input") as Element);
    for (const held of ["ctrlKey", "metaKey", "altKey"]) press("u", document.body, { [held]: true });
    page.addEventListener("keydown", (e) => e.preventDefault());
    press("u", page);
    expect(pressed).toEqual([]);
  });

  it("the space bar presses the button it stands on, and nothing else", () => {
    const page = open();
    press(" ", page.querySelector("button") as Element);
    press(" ", page.querySelector("summary") as Element);
    expect(pressed).toEqual([]);
    press(" ");
    expect(pressed).toEqual(["take"]);
  });

  it("no key works behind a dialog", () => {
    open();
    const dialog = document.createElement("div");
    dialog.setAttribute("role", "dialog");
    document.body.append(dialog);
    press("u");
    expect(pressed).toEqual([]);
    dialog.remove();
    press("u");
    expect(pressed).toEqual(["page u"]);
  });

  it("what opened last has the key; when it goes, the key goes back, and out of the list", () => {
    open();
    const panel = TestBed.createComponent(Panel);
    const keys = TestBed.inject(Keys);
    expect(keys.all().map((k) => k.does)).toEqual(["Units", "Take", "Up"]);
    press("u");
    panel.destroy();
    press("u");
    expect(pressed).toEqual(["panel u", "page u"]);
    expect(keys.all().map((k) => k.does)).toEqual(["Units", "Take"]);
  });

  it("what somebody may not do has no key, and stands in no list; whoever may has it back", () => {
    const door = TestBed.inject(Door);
    const here = (role: Role): void => {
      door.take({
        ...{ door: "people", person: { id: 1, name: "Lark", sign: "LA", role }, chooses: false, names: [] },
        ...{ token: "t1", seals: [], quietMinutes: 10 },
      });
      TestBed.tick();
    };
    const fixture = TestBed.createComponent(Page);
    TestBed.runInInjectionContext(() =>
      TestBed.inject(Keys).use({
        ...{ key: "m", shown: "M", does: "Move", needs: "approach" as const },
        press: () => pressed.push("moved"),
      }),
    );
    here("look");
    press("m");
    expect(
      TestBed.inject(Keys)
        .all()
        .map((k) => k.does),
    ).toEqual(["Units", "Take"]);
    here("technician");
    press("m");
    expect(pressed).toEqual(["moved"]);
    fixture.destroy();
  });
});
