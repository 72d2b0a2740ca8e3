/** One sample of a load trace: load in whatever unit, % or A; its sign is that of the force. */
export interface LoadSample {
  readonly positionMm: number;
  readonly direction: "+" | "-";
  readonly load: number;
}
