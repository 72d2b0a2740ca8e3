import { DIAGNOSIS_CASES } from "./diagnosis-cases";
import { LOSS_CASES } from "./loss-cases";
import type { RateCase } from "./rate-case";
import { SETTING_CASES } from "./setting-cases";

/** Every ± and every yes or no that a screen shows, with how often it holds. */
export const RATE_CASES: readonly RateCase[] = [
  ...LOSS_CASES,
  ...SETTING_CASES,
  ...DIAGNOSIS_CASES,
];
