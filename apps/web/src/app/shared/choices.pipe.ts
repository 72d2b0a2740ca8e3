import { Pipe, type PipeTransform } from "@angular/core";
import type { Choice } from "./fields";

/** A list as choices: words as they are, or things by what tells and what names them. */
@Pipe({ name: "choices" })
export class ChoicesPipe implements PipeTransform {
  transform<T extends string | number>(all: readonly T[]): Choice<T>[];
  transform<T, I extends keyof T, W extends keyof T>(all: readonly T[], id: I, label: W): Choice<T[I]>[];
  transform<T>(all: readonly T[], id?: keyof T, label?: keyof T): Choice<unknown>[] {
    if (id === undefined || label === undefined) return all.map((one) => ({ id: one, label: String(one) }));
    return all.map((one) => ({ id: one[id], label: String(one[label]) }));
  }
}
