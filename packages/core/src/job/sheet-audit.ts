import type { MechanismSheet } from "../machine/mechanism";

/** A sheet being walked, and how a fault on it is told. */
export interface SheetAudit {
  readonly sheet: MechanismSheet;
  readonly say: (rule: number, step: string, message: string) => void;
}
