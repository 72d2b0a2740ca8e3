import { afterNextRender, computed, ElementRef, inject, Injector, type Signal } from "@angular/core";
import { toObservable, toSignal } from "@angular/core/rxjs-interop";
import {
  FormControl,
  type AbstractControl,
  type FormGroup,
  type ValidationErrors,
  type ValidatorFn,
} from "@angular/forms";
import { map, startWith, switchMap } from "rxjs";
import type * as z from "zod";

const SAID = "said";

/** Of a form: the message of each of its controls, by name. Of one control: its message. */
type Said = string | ReadonlyMap<string, string>;

/**
 * A form is right when the contract’s own schema says so: a bound stands once, on the wire.
 *
 * @param schema - What would be sent.
 * @param read - What is sent, from what stands in the form; NaN for a number that cannot be read.
 * @param nameOf - The control that an issue’s path is about, where they differ.
 * @returns A validator for the form; {@link messageOf} finds the message of each control.
 * @example new FormGroup({ name: new FormControl("") }, { validators: bySchema(schema, (form) => form) })
 */
export function bySchema<V extends object>(
  schema: z.ZodType,
  read: (value: V) => unknown,
  nameOf: (path: string) => string = (path) => path,
): ValidatorFn {
  return (form: AbstractControl): ValidationErrors | null => {
    const result = schema.safeParse(read((form as FormGroup).getRawValue() as V));
    if (result.success) return null;
    // The first that is wrong with a field is what is said of it.
    const said = new Map<string, string>();
    for (const issue of result.error.issues) {
      const path = nameOf(issue.path.join("."));
      if (!said.has(path)) said.set(path, issue.message);
    }
    return { [SAID]: said };
  };
}

/**
 * A form is right when whoever works with what stands in it has nothing against it.
 *
 * @param check - What is wrong, by name of the control; nothing where all is right.
 * @returns A validator for the form.
 * @example new FormGroup({ runs: new FormControl("5") }, { validators: byCheck((value) => new Map()) })
 */
export function byCheck<V extends object>(check: (value: V) => ReadonlyMap<string, string>): ValidatorFn {
  return (form: AbstractControl): ValidationErrors | null => {
    const said = check((form as FormGroup).getRawValue() as V);
    return said.size ? { [SAID]: said } : null;
  };
}

/** What stands in a form, as it is typed. Made where inject() may be used. */
export function valueOf<V>(form: () => AbstractControl<unknown, V> & { getRawValue(): V }): Signal<V> {
  const changed = toSignal(
    toObservable(computed(form)).pipe(
      switchMap((f) =>
        f.valueChanges.pipe(
          startWith(null),
          map(() => f.getRawValue()),
        ),
      ),
    ),
  );
  return computed(() => changed() ?? form().getRawValue());
}

/** A rule of one control: its message, or none. */
export function byRule<T>(rule: (value: T) => string): ValidatorFn {
  return (control) => {
    const message = rule(control.value as T);
    return message ? { [SAID]: message } : null;
  };
}

/** Why what stands in the control cannot be, in words; empty when it can. */
export function messageOf(control: AbstractControl): string {
  const own = (control.errors?.[SAID] ?? "") as Said;
  if (typeof own === "string" && own) return own;
  // A form above may know: by the path from there to here, or of something inside it, as of one of some lines.
  let path = "";
  for (let at: AbstractControl = control; at.parent; at = at.parent) {
    path = [nameIn(at.parent as FormGroup, at), path].filter(Boolean).join(".");
    const said = at.parent.errors?.[SAID] as ReadonlyMap<string, string> | undefined;
    const here = said?.get(path) ?? [...(said ?? [])].find(([p]) => p.startsWith(`${path}.`))?.[1];
    if (here) return here;
  }
  return "";
}

function nameIn(form: FormGroup, control: AbstractControl): string {
  return Object.keys(form.controls).find((key) => form.controls[key] === control) ?? "";
}

/** What is wrong with a form and can be said at no field of it. */
export function unplaced(form: FormGroup): string {
  const said = form.errors?.[SAID] as ReadonlyMap<string, string> | undefined;
  const atField = (path: string): boolean => {
    const parts = path.split(".");
    return parts.some((_, i) => form.get(parts.slice(0, i + 1)) instanceof FormControl);
  };
  return [...(said ?? [])].find(([path]) => !atField(path))?.[1] ?? "";
}

/**
 * Asks of a form: may it be sent? If not, every field says what is wrong with it, and one is led to the first.
 * Made where inject() may be used.
 */
export function gate(): (form: FormGroup) => boolean {
  const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  const injector = inject(Injector);
  return (form) => {
    if (form.valid) return true;
    form.markAllAsTouched();
    afterNextRender(() => host.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus(), { injector });
    return false;
  };
}
