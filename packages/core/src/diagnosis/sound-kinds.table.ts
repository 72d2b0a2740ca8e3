/**
 * Kinds of sound that a recording can tell apart: what is said of each, and the causes that make it. What is loose knocks
 * alike wherever it is. Common practice, no source.
 */
export const SOUND_KIND_ROWS = [
  {
    id: "motor-bearing",
    text: "a bearing of the motor, or another that turns with its shaft",
    causes: ["motor-bearing"],
  },
  { id: "end-bearing", text: "the bearings that hold the screw", causes: ["end-bearing-worn"] },
  { id: "far-bearing", text: "the bearing at the far end of the screw", causes: ["support-bearing"] },
  { id: "bent", text: "swells once a turn, most in the middle of the way", causes: ["screw-bent"] },
  { id: "off-centre", text: "swells once a turn, alike all along", causes: ["coupling-eccentric"] },
  { id: "howl-middle", text: "a howl that rises and falls, in one part of the way", causes: ["screw-worn-middle"] },
  { id: "howl", text: "a howl that rises and falls, all along", causes: ["nut-worn"] },
  { id: "grit", text: "crackles all along", causes: ["nut-dirty"] },
  { id: "rattle", text: "a metallic rattle with the balls of the nut", causes: ["nut-returns"] },
  { id: "scrape-spot", text: "scrapes in one spot", causes: ["chips-in-way"] },
  { id: "scrape", text: "scrapes all along, louder and quieter", causes: ["way-dry"] },
  { id: "carriage", text: "clicks with the balls of a rail carriage", causes: ["carriage-failed"] },
  { id: "teeth-spot", text: "knocks tooth by tooth in one spot", causes: ["rack-spot"] },
  { id: "teeth", text: "knocks tooth by tooth all along", causes: ["pinion-worn"] },
  { id: "still", text: "grinds while the axis stands", causes: ["refer-spindle-sensor"] },
  {
    id: "knock",
    text: "knocks where it turns round",
    causes: [
      "retainer-loose",
      "housing-loose",
      "bracket-loose",
      "coupling-screw",
      "pinion-loose",
      "flange-loose",
      "screw-clamp-loose",
      "nut-preload-lost",
    ],
  },
] as const;
