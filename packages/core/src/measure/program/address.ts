/** Addresses of axes in ISO 6983-1: X to Z, U to W beside them, A to C for turning (from memory). */
const ADDRESSES = ["X", "Y", "Z", "U", "V", "W", "A", "B", "C"];

/**
 * Ways in which a control may write an axis: an address is one letter, so an axis with a digit is
 * written with an equals sign, or by a letter that no other axis of the machine has.
 * @param axis - letter of the axis, perhaps with a digit
 * @param others - letters of the machine's other axes
 * @returns the ways, the likeliest first
 * @example axisWords("X", ["Y", "Z"]) // ["X"]
 * @example axisWords("Z2", ["X", "Y", "Z"]) // ["Z2=", "U", "V", "W", "A", "B", "C"]
 */
export function axisWords(axis: string, others: readonly string[]): readonly string[] {
  if (axis.length === 1) return [axis];
  return [`${axis}=`, ...ADDRESSES.filter((a) => !others.includes(a))];
}

/**
 * Why an axis cannot be written like this, in words; empty when it can.
 * @param axis - letter of the axis
 * @param word - how the control is to write it
 * @param others - letters of the machine's other axes
 * @returns a sentence
 * @example wordError("X", "X", ["Y", "Z"]) // ""
 */
export function wordError(axis: string, word: string, others: readonly string[]): string {
  const may = axisWords(axis, others);
  if (may.includes(word)) return "";
  return axis.length === 1
    ? `A program writes axis ${axis} as ${axis}, not as “${word}”.`
    : `A program has no address “${word}”: say how the control writes axis ${axis}: ${may.slice(0, -1).join(", ")} or ${may[may.length - 1]}.`;
}
