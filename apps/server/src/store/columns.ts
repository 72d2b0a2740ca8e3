import { parseByTodaysNames } from "@iron/contract";
import type { ColumnType } from "kysely";

/** JSON text; read with {@link fromJson}. The brand remembers what is in it. */
export type Json<T> = string & { readonly of?: T };

export function toJson<T>(value: T): Json<T> {
  return JSON.stringify(value);
}

export function fromJson<T>(text: Json<T>): T {
  return parseByTodaysNames(text) as T;
}

/** Yes or no: 1 or 0. */
export type Flag = ColumnType<number, number, number>;
