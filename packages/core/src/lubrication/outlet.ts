/** One outlet of a central system, in the order from the pump outwards. */
export interface Outlet {
  readonly name: string;
  /** Null: not looked at. */
  readonly wet: boolean | null;
}

export interface CentralAdvice {
  readonly says: string;
  /** Where to look, in this order. */
  readonly look: readonly string[];
  /** Wants more than oil: a case or a repair. */
  readonly repair: boolean;
}
