import { Pipe, type PipeTransform } from "@angular/core";

/** A list for PrimeNG’s table, which asks for one that it may sort. */
@Pipe({ name: "rows" })
export class RowsPipe implements PipeTransform {
  transform<T>(all: readonly T[] | null): T[] {
    return [...(all ?? [])];
  }
}
