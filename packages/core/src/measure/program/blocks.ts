/** How a control writes a dwell: P in seconds, P in milliseconds, or X in seconds. */
export type DwellWord = "P-seconds" | "P-milliseconds" | "X-seconds";

/**
 * Text that can stand in a comment of a program: nothing in it ends the comment or the program (a percent sign does, on
 * many controls: common practice, no source), and every control reads it.
 * @param text - anything
 * @returns plain ASCII without brackets and percent signs, 70 characters at most
 * @example commentText("X (left)") // "X  left "
 */
export function commentText(text: string): string {
  return text
    .replace(/[()%\r\n]/g, " ")
    .replace(/[^\x20-\x7e]/g, "-")
    .slice(0, 70);
}

/**
 * A dwell (ISO 6983-1 words, from memory).
 * @param seconds - how long
 * @param word - how the control writes it
 * @returns the block
 * @example dwellBlock(2, "P-milliseconds") // "G4 P2000"
 */
export function dwellBlock(seconds: number, word: DwellWord): string {
  if (word === "P-milliseconds") return `G4 P${Math.round(seconds * 1000)}`;
  return `G4 ${word === "X-seconds" ? "X" : "P"}${seconds.toFixed(1)}`;
}
