import { Directive, input } from "@angular/core";

/**
 * Gives the rows of a table their type: a template of PrimeNG’s knows nothing of what it is given.
 * @example <ng-template #body let-one [ipRowOf]="machines()">
 */
@Directive({ selector: "ng-template[ipRowOf]" })
export class RowOf<T> {
  /** What the table shows; only its type is read. */
  readonly ipRowOf = input.required<readonly T[]>();

  static ngTemplateContextGuard<T>(_: RowOf<T>, context: unknown): context is { $implicit: T; rowIndex: number } {
    return typeof context === "object";
  }
}
