import type { RecordedStep } from "./progress";

/** Notes of steps that put something right, and what the record says of it. */
const DONE_TEXT: Readonly<Record<string, string>> = {
  "preload-set": "bearing preload set",
  "screw-aligned": "screw aligned",
  "far-aligned": "far support aligned",
  "coupling-renewed": "coupling renewed or reset",
  "belt-renewed": "belt renewed",
  "nut-greased": "nut greased",
  "nut-serviced": "nut serviced",
  "gib-set": "gib set",
  "wheels-set": "V-wheels set",
  "cage-centred": "cage centred",
  "antibacklash-set": "anti-backlash nut set",
  "pinion-set": "pinion set",
  squared: "squared",
  "switch-renewed": "home switch renewed",
  "head-square": "head shimmed square",
  "column-plumb": "column shimmed plumb",
  "flange-true": "nut housing indicated true",
};

/**
 * What was really done on an axis, for its history: parts that were put in, fasteners tightened by
 * name, things set. What was only taken off and put back is not called renewed.
 * @param record - steps with how they were signed
 * @param letter - letter of the axis
 * @returns the sentence
 * @example doneText([], "X") // 'looked at, nothing opened'
 */
export function doneText(record: readonly RecordedStep[], letter: string): string {
  const own = record.filter((r) => r.step.axis === letter);
  const renewed = own.flatMap((r) => r.step.parts.map((p) => p.name));
  const tightened = own
    .filter((r) => r.step.kind.startsWith("tighten:") || r.step.kind === "try-all")
    .map((r) =>
      r.step.kind === "try-all"
        ? "fasteners tried and tightened"
        : `${r.step.kind.slice("tighten:".length)} screws tightened`,
    );
  const set = own.flatMap((r) =>
    r.step.effects.flatMap((e) => (e.kind === "note" && DONE_TEXT[e.id] ? [DONE_TEXT[e.id]] : [])),
  );
  const found = own.flatMap((r) => {
    const find = r.step.finds.find((f) => f.id === r.signed.found);
    return find?.offersStop || find?.asks ? [`found: ${find.label}`] : [];
  });
  const parts = [
    ...new Set([
      ...(renewed.length ? [`renewed: ${[...new Set(renewed)].join(", ")}`] : []),
      ...tightened,
      ...set,
      ...found,
    ]),
  ];
  if (parts.length > 0) return parts.join("; ");
  return own.some((r) => r.step.phase === "work") ? "opened and closed, nothing renewed" : "looked at, nothing opened";
}
