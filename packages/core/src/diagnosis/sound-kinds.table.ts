/**
 * Kinds of sound that a recording can tell apart: what each is like, what is heard of it, and the causes that make it. What
 * is loose knocks alike wherever it is. Common practice, no source.
 */
// prettier-ignore
export const SOUND_KIND_ROWS = [
  { id: "motor-bearing", like: "a bearing of the motor", text: "blows that come with the balls of a bearing on its shaft", causes: ["motor-bearing"] },
  { id: "end-bearing", like: "worn bearings of the screw", text: "a rumble, and blows that come with their balls", causes: ["end-bearing-worn"] },
  { id: "far-bearing", like: "a worn bearing at the far end of the screw", text: "blows that come with its balls, fainter as the nut comes near", causes: ["support-bearing"] },
  { id: "bent", like: "a bent screw", text: "it swells once a turn, most in the middle of the way", causes: ["screw-bent"] },
  { id: "off-centre", like: "a coupling off centre", text: "it swells once a turn, alike all along", causes: ["coupling-eccentric"] },
  { id: "howl-middle", like: "a thread worn where it works most", text: "a howl that rises and falls, in one part of the way", causes: ["screw-worn-middle"] },
  { id: "howl", like: "a worn nut", text: "a howl that rises and falls, all along", causes: ["nut-worn"] },
  { id: "grit", like: "dirt in the nut", text: "it crackles all along", causes: ["nut-dirty"] },
  { id: "rattle", like: "loose ball returns", text: "a metallic rattle with the balls of the nut", causes: ["nut-returns"] },
  { id: "scrape-spot", like: "chips under a wiper", text: "it scrapes in one spot", causes: ["chips-in-way"] },
  { id: "scrape", like: "dry ways", text: "it scrapes all along, now more, now less", causes: ["way-dry"] },
  { id: "carriage", like: "a broken rail carriage", text: "clicks that come with its balls", causes: ["carriage-failed"] },
  { id: "teeth-spot", like: "a high spot in the rack", text: "it knocks tooth by tooth in one spot", causes: ["rack-spot"] },
  { id: "teeth", like: "a worn pinion or rack", text: "it knocks tooth by tooth all along", causes: ["pinion-worn"] },
  { id: "still", like: "something at the spindle end", text: "it grinds while the axis stands: not this axis", causes: ["refer-spindle-sensor"] },
  { id: "knock", like: "something loose", text: "it knocks where it turns round", causes: ["retainer-loose", "housing-loose", "bracket-loose", "coupling-screw", "pinion-loose", "flange-loose", "screw-clamp-loose", "nut-preload-lost"] },
] as const;
