/** A recording beside a test: where it leads, and what it does there. */
interface Recorded {
  readonly link: string;
  readonly says: string;
  readonly query: Readonly<Record<string, string>>;
}

/** Tests that a recording helps. */
export const RECORDED: Readonly<Partial<Record<string, Recorded>>> = {
  "sound-comparison": {
    link: "Record it",
    says: ": what it is like is worked out, and weighed with the rest. What the ear says goes below.",
    query: {},
  },
  "motor-alone": {
    link: "Record the motor alone",
    says: " and hold it beside a recording of the axis coupled: which of the two makes the noise is told.",
    query: { motor: "alone" },
  },
};
