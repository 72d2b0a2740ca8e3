import { ChangeDetectionStrategy, Component } from "@angular/core";
import { TestBed } from "@angular/core/testing";
import { FormControl, FormGroup, ReactiveFormsModule } from "@angular/forms";
import * as z from "zod";
import { setUpBed, show } from "../../testing/place";
import { NumberField, TextField } from "./fields";
import { bySchema, byRule, gate, messageOf, unplaced } from "./schema-form";

const schema = z
  .object({
    name: z.string().min(1, "Name is empty."),
    rule: z
      .object({ least: z.number({ error: "Least is no number." }), most: z.number().max(10, "At most 10.") })
      .refine((r) => r.least <= r.most, { error: "Least is more than most." }),
    lines: z.array(z.string().max(3, "A line is too long.")),
  })
  .readonly();

const form = () =>
  new FormGroup(
    {
      name: new FormControl("", { nonNullable: true }),
      rule: new FormGroup({
        least: new FormControl(1, { nonNullable: true }),
        most: new FormControl(5, { nonNullable: true }),
      }),
      lines: new FormControl("", { nonNullable: true }),
    },
    {
      validators: bySchema(schema, (v: { name: string; lines: string }) => ({ ...v, lines: v.lines.split(";") })),
    },
  );

describe("a form by the contract’s schema", () => {
  it("is right when the schema says so, and each control knows its own message", () => {
    const f = form();
    expect([f.valid, messageOf(f.controls.name)]).toEqual([false, "Name is empty."]);
    f.controls.name.setValue("X ways");
    expect([f.valid, messageOf(f.controls.name)]).toEqual([true, ""]);
    f.controls.rule.controls.most.setValue(11);
    expect(messageOf(f.controls.rule.controls.most)).toBe("At most 10.");
    expect(messageOf(f.controls.rule.controls.least)).toBe("");
  });

  it("a message about something inside a field is the field’s; one about no field is told apart", () => {
    const f = form();
    f.patchValue({ name: "n", lines: "abc;abcd" });
    expect([messageOf(f.controls.lines), unplaced(f)]).toEqual(["A line is too long.", ""]);
    f.patchValue({ lines: "", rule: { least: 6 } });
    expect([messageOf(f.controls.rule.controls.least), unplaced(f)]).toEqual(["", "Least is more than most."]);
  });

  it("a rule of one control goes before what the form says of it", () => {
    const control = new FormControl("x", { validators: byRule<string>((v) => (v === "x" ? "Not x." : "")) });
    expect(messageOf(control)).toBe("Not x.");
    control.setValue("y");
    expect(messageOf(control)).toBe("");
  });
});

@Component({
  imports: [NumberField, ReactiveFormsModule, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="form">
      <ip-text-field label="Name" formControlName="name" />
      <ng-container formGroupName="rule">
        <ip-number-field label="Least" formControlName="least" />
        <ip-number-field label="Most" formControlName="most" />
      </ng-container>
    </form>
  `,
})
class Page {
  readonly form = form();
  readonly maySend = gate();
}

describe("fields of such a form", () => {
  beforeEach(() => void setUpBed());

  it("say nothing before they are touched; asked whether it may go out, all do, and one is led to the first", () => {
    const page = show(Page);
    expect(page.alerts()).toBe("");
    expect(page.component.maySend(page.component.form)).toBe(false);
    TestBed.tick();
    expect(page.alerts()).toBe("Name is empty.");
    expect(document.activeElement).toBe(page.page.getByLabelText("Name"));
    page.type("Name", "X ways");
    expect([page.alerts(), page.component.maySend(page.component.form)]).toEqual(["", true]);
  });

  it("a bound that the schema knows is said with the value that breaks it, and what is no number holds the form", () => {
    const page = show(Page);
    page.type("Name", "X ways");
    page.type("Most", "11");
    expect(page.alerts()).toBe("“11”: At most 10.");
    page.type("Most", "many");
    expect([page.alerts(), page.component.form.valid]).toEqual(["“many” is not a number.", false]);
    page.type("Most", "9");
    expect([page.alerts(), page.component.form.getRawValue().rule]).toEqual(["", { least: 1, most: 9 }]);
  });

  it("what the form is set to stands in its fields", () => {
    const page = show(Page);
    page.component.form.reset({ name: "Y nut", rule: { least: 2, most: 3 } });
    TestBed.tick();
    expect([page.value("Name"), page.value("Least"), page.value("Most"), page.alerts()]).toEqual([
      "Y nut",
      "2",
      "3",
      "",
    ]);
  });
});
