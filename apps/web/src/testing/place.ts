import { provideHttpClient } from "@angular/common/http";
import { HttpTestingController, provideHttpClientTesting, type TestRequest } from "@angular/common/http/testing";
import type { EnvironmentProviders, Provider, Type } from "@angular/core";
import { TestBed, type ComponentFixture } from "@angular/core/testing";
import { CdkDropList, type CdkDragDrop } from "@angular/cdk/drag-drop";
import { By } from "@angular/platform-browser";
import { provideRouter } from "@angular/router";
import { configure, within } from "@testing-library/dom";
import { MessageService } from "primeng/api";
import { Select } from "primeng/select";
import { UseStyle } from "primeng/usestyle";

// Nothing here hides by style sheet, and asking each element whether it is seen takes most of the time.
configure({ defaultHidden: true });

/** What a component is given from outside, by name. */
export type Inputs = Readonly<Record<string, unknown>>;

/** The test bed of one screen: a router, an API that answers what the test says, and notices. */
export function setUpBed(...more: (Provider | EnvironmentProviders)[]): HttpTestingController {
  localStorage.clear();
  TestBed.configureTestingModule({
    providers: [
      provideRouter([]),
      provideHttpClient(),
      provideHttpClientTesting(),
      MessageService,
      // Style sheets nobody looks at: jsdom would weigh each rule for each element.
      { provide: UseStyle, useValue: { use: () => ({}) } },
      ...more,
    ],
  });
  return TestBed.inject(HttpTestingController);
}

/** The list a field chooses from, if it is one. */
function selectOf(fixture: ComponentFixture<unknown>, field: HTMLElement): Select | null {
  const lists = fixture.debugElement.queryAll(By.directive(Select));
  const own = lists.find((s) => (s.nativeElement as HTMLElement).contains(field));
  return (own?.componentInstance as Select | undefined) ?? null;
}

/** One of a list, by what it stands for. */
export function chooseIn(fixture: ComponentFixture<unknown>, name: string | RegExp, value: string): void {
  const select = selectOf(fixture, within(fixture.nativeElement as HTMLElement).getByLabelText(name));
  const option: unknown = select?.options?.find((o: { id: unknown }) => String(o.id) === value);
  if (!select || !option) throw new Error(`“${value}” is not on offer under ${name}.`);
  select.onOptionSelect(new Event("click"), option);
  TestBed.tick();
}

/** Yes, No or “?” of one question. */
export function answerIn(group: HTMLElement, key: string): void {
  const button = within(group)
    .getAllByRole("button")
    .find((b) => b.textContent.trim().startsWith(key));
  if (!button) throw new Error(`There is no “${key}” to answer with.`);
  button.click();
  TestBed.tick();
}

/** A component on the page, found and used by label and name as a person would. */
export function show<T>(component: Type<T>, inputs: Inputs = {}) {
  const fixture = TestBed.createComponent(component);
  const give = (over: Inputs): void => {
    for (const [name, value] of Object.entries(over)) fixture.componentRef.setInput(name, value);
    TestBed.tick();
  };
  give(inputs);
  const root = fixture.nativeElement as HTMLElement;
  const page = within(root);
  const enter = (name: string | RegExp, text: string, events: readonly string[]): void => {
    const field = page.getByLabelText<HTMLInputElement>(name);
    field.value = text;
    for (const event of events) {
      field.dispatchEvent(new Event(event, { bubbles: true }));
      TestBed.tick();
    }
  };
  return {
    component: fixture.componentInstance,
    page,
    give,
    /** The page’s text with its white space made single. */
    text: (): string => root.textContent.replace(/\s+/g, " "),
    alerts: (): string =>
      page
        .queryAllByRole("alert")
        .map((a) => a.textContent.replace(/\s+/g, " ").trim())
        .join(" | "),
    value: (name: string | RegExp): string => {
      const field = page.getByLabelText<HTMLInputElement>(name);
      const select = selectOf(fixture, field);
      return select ? String(select.value ?? "") : field.value;
    },
    type: (name: string | RegExp, text: string) => {
      enter(name, text, ["input", "change"]);
    },
    choose: (name: string | RegExp, value: string) => {
      chooseIn(fixture, name, value);
    },
    /** Something dragged is let go over an element: what it stands for is told. */
    drop: (onto: HTMLElement, data: unknown) => {
      const lists = fixture.debugElement.queryAll(By.directive(CdkDropList));
      const list = lists.find((d) => (d.nativeElement as HTMLElement).contains(onto))?.injector.get(CdkDropList);
      if (!list) throw new Error("Nothing can be dropped there.");
      list.dropped.emit({ item: { data } } as CdkDragDrop<unknown>);
      TestBed.tick();
    },
    tick: (name: string | RegExp) => {
      page.getByLabelText<HTMLInputElement>(name).click();
      TestBed.tick();
    },
    press: (name: string | RegExp) => {
      page.getByRole("button", { name }).click();
      TestBed.tick();
    },
  };
}

/** Answers a waiting request, and lets the page take it in. */
export function answer(request: TestRequest, body: unknown): void {
  request.flush(body as Parameters<TestRequest["flush"]>[0]);
  TestBed.tick();
}

/** Answers a waiting request as the server refuses. */
export function refuse(
  request: TestRequest,
  status: number,
  { detail, more = {} }: { readonly detail: string; readonly more?: object },
): void {
  request.flush({ type: "about:blank", title: "Refused", status, detail, ...more }, { status, statusText: "Refused" });
  TestBed.tick();
}

/** No server answers. */
export function cut(request: TestRequest): void {
  request.error(new ProgressEvent("error"));
  TestBed.tick();
}

/** What the page has said at its edge. */
export function hearNotices(): string[] {
  const said: string[] = [];
  TestBed.inject(MessageService).messageObserver.subscribe((m) => {
    for (const one of Array.isArray(m) ? m : [m]) said.push(one.summary ?? "");
  });
  return said;
}
