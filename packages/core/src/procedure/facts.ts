import type { OpenFact } from "./types";

const fact = (id: string, words: string, link: OpenFact["link"], more: Partial<OpenFact> = {}): OpenFact => ({ id, words, link, retest: null, ...more }); // prettier-ignore
/** Undone, nothing drives or carries the member. */
const DRIVE = { carries: true, stopsDrive: true, retest: "chain" } as const;

/** Facts of the machine as a whole. */
export const MACHINE_FACTS: readonly OpenFact[] = [
  fact("isolated", "the machine is isolated and locked out", null),
  fact("isolated-again", "the machine is isolated again for closing up", null),
];

/** Facts of an axis. What is open at the end of a job has been forgotten. */
export const AXIS_FACTS: readonly OpenFact[] = [
  fact("blocked", "the member is blocked", null),
  fact("balance-secured", "counterweight or spring is secured", "member", { stopsDrive: true, retest: "chain" }),
  fact("covers-off", "covers are off", null),
  fact("bumper-off", "the bumper is off", null, { stopsDrive: true }),
  fact("lube-off", "the lubrication line is off", "nut", { stopsDrive: true, retest: "chain" }),
  fact("coupling-open", "the coupling screws are loose", "coupling", DRIVE),
  fact("belt-off", "the belt is off", "belt", DRIVE),
  fact("motor-off", "the motor with its brake is off", "motor", DRIVE),
  fact("tab-open", "the lock tab is unfolded", "end-bearings", { retest: "chain" }),
  fact("nut-off", "the bearing nuts or the retainer are off", "end-bearings", DRIVE),
  fact("spacer-out", "the spacer is out", "end-bearings", { ...DRIVE, keep: "spacer" }),
  fact("housing-loose", "the bearing housing is loose", "end-bearings", DRIVE),
  fact("pins-out", "the housing’s pins are out", "end-bearings", { stopsDrive: true, retest: "chain", keep: "pin" }),
  fact("shims-out", "the housing’s shims are out", "end-bearings", { stopsDrive: true, retest: "chain", keep: "shim" }),
  fact("housing-off", "the bearing housing is off", "end-bearings", DRIVE),
  fact("bearing-out", "the bearing set is out", "end-bearings", DRIVE),
  fact("far-open", "the far end support is open", "screw", { stopsDrive: true, retest: "chain" }),
  fact("far-bearing-out", "the far end bearing is out", "screw", { stopsDrive: true, retest: "chain" }),
  fact("bracket-loose", "the nut bracket screws are loose", "bracket", DRIVE),
  fact("nut-parted", "the nut is parted from its bracket", "bracket", DRIVE),
  fact("screw-out", "the screw is out", "screw", DRIVE),
  fact("nut-apart", "the ball nut is off its screw", "nut", { ...DRIVE }),
  fact("antibacklash-loose", "the anti-backlash nut is loose", "nut", { stopsDrive: true, retest: "chain" }),
  fact("gib-loose", "the gib is loose", "way", { stopsDrive: true, retest: "travel" }),
  fact("load-held", "the member’s weight is held by the support", "way", { stopsDrive: true }),
  fact("carriage-off", "a rail carriage is off", "way", { stopsDrive: true, retest: "travel" }),
  fact("wheels-loose", "V-wheel spacers are loose", "way", { stopsDrive: true, retest: "travel" }),
  fact("drive-unplugged", "the drive is unplugged", null, { stopsDrive: true }),
  fact("rack-loose", "the rack is loose near the spot", "rack", { stopsDrive: true, retest: "travel" }),
  fact("cage-loose", "the preload of the cage slide is relieved", "way", { stopsDrive: true, retest: "travel" }),
  fact("switch-off", "the home switch is off", null, { stopsDrive: true, retest: "home" }),
  fact("head-loose", "the head’s bolts are loose", "member", { carries: true, stopsDrive: true, retest: "tram" }),
]; // prettier-ignore

const BY_ID = new Map([...MACHINE_FACTS, ...AXIS_FACTS].map((f) => [f.id, f]));

/** The fact behind a name like `Z:motor-off` or `isolated`; undefined for what is done once. */
export function openFact(name: string): OpenFact | undefined {
  return BY_ID.get(bareName(name));
}

/** `Z:motor-off` → `motor-off`. */
export function bareName(name: string): string {
  return name.slice(name.indexOf(":") + 1);
}

export const CARRYING = AXIS_FACTS.filter((f) => f.carries).map((f) => f.id);
export const STOPPING = AXIS_FACTS.filter((f) => f.stopsDrive).map((f) => f.id);

/** Things that are done once and stay done. */
export const DONE_WORDS: Readonly<Record<string, string>> = {
  "before-known": "the loss before the job is known",
  "home-noted": "the home position and what will be lost are noted",
  "block-tried": "the block has been tried with the drive off",
  "fasteners-seen": "the fasteners have been tried for tightness",
  "finger-felt": "the bearing has been felt with a fingertip",
  "back-driven": "the freed screw has been tried for winding down",
  "seat-clean": "the seat is clean",
  "preload-set": "the preload is set",
  "coupling-square": "the coupling is square and clear of the brake",
  "screw-aligned": "the screw is in line with the ways",
  "gib-set": "the gib is set",
  "wheels-set": "the wheels are set",
  "cage-centred": "the cage is centred",
  "antibacklash-set": "the anti-backlash nut is set",
  "switch-set": "the switch is set to the marker",
  "head-square": "the head is shimmed square",
  "nut-serviced": "the nut is serviced",
  "tools-out": "tools and hands are out",
  jogged: "the axis has been jogged slowly",
  referenced: "the axis is referenced again",
  "retested-chain": "the retest of the chain has passed",
  "retested-travel": "the travel is free end to end",
  "retested-home": "home repeats",
  "retested-tram": "the head is square",
  tightened: "the loose fasteners are tight",
  signed: "the job is signed off",
};

/** A fact in words, with its axis where it has one. */
export function factWords(name: string): string {
  const bare = bareName(name);
  const words = BY_ID.get(bare)?.words ?? DONE_WORDS[bare] ?? bare;
  const axis = name.includes(":") ? `${name.split(":")[0]}: ` : "";
  return axis + words;
}
