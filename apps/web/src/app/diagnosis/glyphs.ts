import type { FindingId } from "@iron/core";

/**
 * The shape of a symptom on a field 56 × 20: load or sound over the travel, left to right. They are
 * a help beside the words, never instead of them.
 */
export const GLYPHS: Partial<Record<FindingId, string>> = {
  rumble: "M2 14q3 -8 6 0t6 0t6 0t6 0t6 0t6 0t6 0t6 0",
  howl: "M2 14q12 -20 26 -4q14 14 26 -6",
  rattle: "M2 14h6l2 -10l2 14l2 -12l2 8h8l2 -10l2 14l2 -12l2 8h8l2 -8l2 10",
  grit: "M2 14h18l2 -8l2 8h14l2 -5l2 5h12",
  "carriage-click": "M2 14h10v-8v8h14v-8v8h14v-8v8h12",
  groan: "M2 15l8 -9v9l8 -9v9l8 -9v9l8 -9v9l8 -9v9h8",
  knock: "M2 14h24l2 -12l3 12h23",
  "tight-all": "M2 18V5h52v13",
  "tight-end": "M2 16h30l22 -12",
  "tight-turn": "M2 11q5 -12 10 0t10 0t10 0t10 0t10 0",
  "tight-spot": "M2 16h18q4 0 6 -10q2 10 6 10h22",
  "tight-one-way": "M4 7h20l-5 -4M24 7l-5 4M52 15h-10",
  "lost-motion": "M2 16h16l8 -8h8l8 8h12M26 4h8",
  wanders: "M2 16l14 -3l14 -2l14 -4l10 -3",
  "lost-steps": "M2 16h12v-4h12v-4h2M32 12h6v-4h14",
  "short-travel": "M2 12h34M36 4v14M54 4v14M40 12h10",
  hunting: "M2 11h8q2 -8 4 0t4 0t4 0t4 0t4 0t4 0t4 0t4 0h8",
  spikes: "M2 14h14v-10v10h20v-10v10h18",
};
