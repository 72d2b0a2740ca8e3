import type { Fitting } from "./knowledge";
import type { LocateTest } from "./locate-test";

const SCREWED: Fitting[] = [{ transmission: ["direct", "belt", "plain-screw"] }];

/** The tests that split the chain, as a technician would read them. Minutes and tools: common practice, no source. */
export const LOCATE_TEST_ROWS = [
  {
    id: "control-check", name: "Control check", isolates: "overrides, interlocks, what the program waits for", minutes: 2, tools: "none", free: true,
    findings: ["override-zero", "no-motion", "stops-in-program", "listed-interlock", "listed-waiting", "display-dead"], fits: [],
    how: ["Look at the feed and rapid overrides and at feed hold. Note what stands at zero before you touch it.", "Turned up from zero the axis moves at once, on with its program: guard closed, hands out, tool clear, one hand on the stop. Then turn it up slowly.", "Nothing at zero: try to jog at the lowest feed, as guarded.", "Open the control’s own list of what it is waiting for: a signal, a move, a door, an operator."],
    spoiltBy: "looking at the screen and not at the knobs",
  },
  {
    id: "comp-look", name: "Entered compensation", isolates: "compensation in the control", minutes: 2, tools: "none", free: true,
    findings: ["comp-differs"], fits: [], how: ["Open the control’s table of backlash compensation for this axis.", "Compare it with what was noted last, here or in the machine’s book."],
    spoiltBy: "nobody knows what was entered before",
  },
  {
    id: "look-over", name: "Oil film, warmth, marks", isolates: "lubrication, bearing preload, what has slipped", minutes: 3, tools: "a clean cloth", free: true,
    findings: ["dry", "hot-end", "marks-off", "wiper-torn"], fits: [],
    how: ["Isolate and lock out; nobody reaches under what can fall, and reaches in there only while it is on its block.", "Wipe a finger’s length of way and screw with a clean cloth: is there a film?", "Look at the point farthest from the pump.", "Back of the hand on the bearing end soon after it has run: warm is well, hot is not.", "Where an opening shows them: do the paint marks across hub and shaft still meet? No marks, no answer.", "Look at the wipers: torn, hard, or packed with chips?"],
    spoiltBy: "looking at the near end only",
  },
  {
    id: "fastener-check", name: "Fastener check", isolates: "loose fasteners", minutes: 15, tools: "torque wrench, hex keys", free: true,
    findings: ["retainer-turns", "housing-turns", "bracket-turns", "coupling-turns", "pinion-turns", "flange-turns", "clamp-turns"], fits: [],
    how: ["Isolate and lock out; a gravity axis is blocked first.", "Put the wrench on every screw of the list at its torque: does it turn before it clicks?", "Note what turned; tighten it only after it is noted."],
    spoiltBy: "tightening before noting",
  },
  {
    id: "whole-chain", name: "Two-sided approach", isolates: "the whole chain", minutes: 12, tools: "indicator, gauge block", guided: true, setup: "at-member",
    findings: [], magnitude: "whole-chain", fits: [], how: ["At station Measure."], spoiltBy: "overshoot: discard, do not correct",
  },
  {
    id: "travel-profile", name: "Travel profile", isolates: "wear along the travel", minutes: 40, tools: "indicator, gauge block", guided: true,
    findings: ["profile-middle"], magnitude: "whole-chain", fits: [], how: ["At station Measure."], spoiltBy: "warm-up drift",
  },
  {
    id: "whole-twice", name: "Two-sided at two places", isolates: "a screw worn where it works", minutes: 15, tools: "indicator, gauge block", setup: "at-member",
    findings: ["profile-middle"], fits: [{ transmission: ["direct", "belt", "plain-screw"], feedback: ["encoder", "open-loop"] }],
    how: ["Indicator against the member where the work is done most: approach from either side, three times each, hands out while it moves.", "The same near an end that is hardly used.", "Clearly more lost where it works most: the screw is worn there. The same at both: it is no wear at one place."], spoiltBy: "two places that are both worn",
  },
  {
    id: "motor-against-scale", name: "Motor against scale", isolates: "slack between motor and table", minutes: 6, tools: "the control’s own page",
    findings: ["scale-gap"], fits: [{ feedback: ["scale"] }],
    how: ["The control’s page that shows the position by the motor beside that by the scale, or what they differ by. Where it has none, this is not done.", "Guarded, hands out, at low feed: 20 mm to a place in the middle and stop; note the difference. On past it, back to it from the other side; note it again. Three times.", "What the two notes differ by is lost between motor and table, wind-up with it: compare with what this axis may lose."], spoiltBy: "a difference that grows along the travel: that is lead or warmth, not slack",
  },
  {
    id: "end-float", name: "Screw end float", isolates: "what holds the screw endwise", minutes: 15, tools: "indicator, steel ball, grease", guided: true, setup: "bearing-end",
    findings: [], magnitude: "end-float", fits: [{ transmission: ["direct", "belt", "rotating-nut", "plain-screw"] }],
    how: ["Bed a ball with grease in the screw’s centre hole, so that an untrue end face does not matter.", "Indicator on saddle or casting, tip on the ball.", "Reverse the axis and read."],
    spoiltBy: "reading an untrue face while it turns",
  },
  {
    id: "housing-shift", name: "Housing shift", isolates: "loose bearing housing", minutes: 10, tools: "indicator", guided: true, setup: "bearing-end",
    findings: [], magnitude: "housing-shift", fits: SCREWED, how: ["Indicator on the casting, tip on the bearing housing.", "Reverse the axis and read."], spoiltBy: "a stand that is not on the casting",
  },
  {
    id: "nut-flank", name: "Nut flank", isolates: "nut with its bracket, on the thread there", minutes: 20, tools: "lever indicator", guided: true, setup: "on-member",
    findings: [], magnitude: "nut-flank", fits: [{ transmission: ["direct", "belt", "rotating-nut", "plain-screw"] }],
    how: ["The indicator rides on the moving member, its tip on a thread flank.", "Reverse the axis: the flank stays still if neither nut nor bracket has play. The bracket’s own shift tells which of the two."], spoiltBy: "tip climbing off the flank",
  },
  {
    id: "flank-twice", name: "Nut flank at two places", isolates: "worn screw against worn nut", minutes: 35, tools: "lever indicator", setup: "on-member",
    findings: ["flank-middle"], fits: [{ transmission: ["direct", "belt", "rotating-nut"] }],
    how: ["The indicator rides on the moving member, its tip on a thread flank; isolate to set it.", "Reverse and read where the work is done most, then near an end that is hardly used, three times each, hands out.", "Clearly more play where it works most: the thread is worn there. The same at both: the nut."], spoiltBy: "two places that are both worn",
  },
  {
    id: "bracket-shift", name: "Nut bracket shift", isolates: "nut bracket", minutes: 10, tools: "indicator", guided: true, setup: "on-member",
    findings: [], magnitude: "bracket-shift", fits: SCREWED, how: ["Indicator on the moving member, tip on the nut bracket.", "Reverse the axis and read."], spoiltBy: "a stand on the bracket itself",
  },
  {
    id: "coupling-slip", name: "Coupling slip", isolates: "coupling, belt or pinion", minutes: 10, tools: "two indicators or witness marks", guided: true,
    findings: ["springy"], magnitude: "coupling-slip", fits: [],
    how: ["Witness mark or indicator on both sides.", "Reverse the axis: do both sides move as one? Does it come back by itself?"], spoiltBy: "one mark only",
  },
  {
    id: "load-trace", name: "Load trace", isolates: "friction, gravity, ends, turns, spots", minutes: 10, tools: "the drive’s load meter, or a file",
    findings: ["tight-all", "tight-end", "tight-turn", "tight-spot", "tight-one-way", "gravity-off", "short-travel", "spikes"], fits: [],
    how: ["Traverse slowly both ways over the whole travel, cover closed.", "Keep position, direction and load."], spoiltBy: "acceleration zones: they are cut off",
  },
  {
    id: "screw-by-hand", name: "Screw turned by hand", isolates: "friction without the drive", minutes: 10, tools: "hand, or a key on the motor’s shaft", setup: "motor-off",
    findings: ["tight-all", "tight-end", "tight-turn", "tight-spot", "grit"], fits: [{ transmission: ["direct", "belt", "plain-screw"], motor: ["stepper"] }],
    how: ["Isolate and lock out: the stepper holds nothing without current. A brake is let go by its lever; one without a lever stays on, and then this is not done.", "Turn the screw by hand over the whole travel and feel: even, tight at one end, once a turn, at a spot?"], spoiltBy: "a brake that is still on",
  },
  {
    id: "hand-push", name: "Hand push", isolates: "guideway without the drive", minutes: 15, tools: "hands, two people for a heavy member", opens: true, setup: "motor-off",
    findings: ["tight-all", "tight-spot", "short-travel", "grit"], fits: [{ gravity: false }],
    how: ["Isolate and lock out; uncouple the motor.", "Push the member along its whole travel and feel."], spoiltBy: "a gravity axis: never",
  },
  {
    id: "motor-alone", name: "Motor alone", isolates: "motor and drive against mechanics", minutes: 25, tools: "hex keys", opens: true, setup: "motor-off",
    findings: ["motor-noise", "motor-heavy"], fits: [], how: ["Isolate, uncouple the motor, block a gravity axis.", "Run the uncoupled motor at the noisy speed, hands out."], spoiltBy: "a different speed",
  },
  {
    id: "coast", name: "Coast test", isolates: "bearing-nut preload", minutes: 25, tools: "hand", opens: true, setup: "motor-off",
    findings: ["coasts-free", "coast-stuck"], fits: SCREWED, how: ["Isolate, uncouple the motor, block a gravity axis.", "Flick the screw end: it should spin a little and come to rest by itself."], spoiltBy: "a nut that drags",
  },
  {
    id: "finger-feel", name: "Finger feel", isolates: "end bearing", minutes: 60, tools: "clean finger", opens: true,
    findings: ["rough-finger"], fits: SCREWED, how: ["Isolate, block a gravity axis, motor off, bearing reachable.", "Turn the inner ring with a fingertip: any roughness condemns it."], spoiltBy: "grease that hides it",
  },
  {
    id: "back-drive", name: "Back-drive", isolates: "nut preload", minutes: 10, tools: "hand", opens: true, findings: ["back-drives"], fits: SCREWED,
    how: ["Inside a job, the head blocked and the block tried, the screw freed from its bearings.", "Does the screw wind down by itself? Then the nut has no preload left; one built with clearance does so when it is sound."], spoiltBy: "a screw still held by its bearings",
  },
  {
    id: "rock", name: "Rock", isolates: "gib, carriage, wheels", minutes: 5, tools: "indicator", findings: ["rocks"], fits: [],
    how: ["Axis stopped and isolated, a gravity axis blocked.", "Rock the member by hand, an indicator across it: more than 0.02 mm is play."], spoiltBy: "bending the table instead",
  },
  {
    id: "wheel-turn", name: "Wheel turn", isolates: "wheel preload", minutes: 5, tools: "fingers", findings: ["wheel-stuck", "wheel-free"], fits: [{ guideway: ["v-wheel"] }],
    how: ["Isolate and lock out; a member that can fall stands on its block.", "Each wheel in contact must just turn by hand against its rail."], spoiltBy: "the drive holding the member",
  },
  {
    id: "end-watch", name: "Watch the screw’s free end", isolates: "screw out of line, bent screw", minutes: 3, tools: "an eye", free: true,
    findings: ["end-walks"], fits: [{ transmission: ["direct", "belt", "plain-screw"] }],
    how: ["Only from where the free end shows with every guard in its place: nothing is opened for it, hands out.", "Slow jog over the whole travel: does the end walk sideways as the nut comes near, or swing as it turns?"], spoiltBy: "standing where the end cannot be seen",
  },
  {
    id: "crest-run", name: "Screw crest run", isolates: "screw in line, bent screw", minutes: 30, tools: "lever indicator", setup: "on-member",
    findings: ["crest-slope", "crest-turn"], fits: SCREWED,
    how: ["Ways aligned first.", "The indicator rides on the member, tip on the thread crest at 0°, then at 90°.", "Run the full travel in whole turns and read."], spoiltBy: "ways not yet aligned",
  },
  {
    id: "carriages-unloaded", name: "Unload and feel each carriage", isolates: "a destroyed carriage", minutes: 75, tools: "jack or lifting gear, hex keys", opens: true,
    findings: ["carriage-broken"], fits: [{ guideway: ["rail"] }],
    how: ["Isolate and lock out, balance secured; the member braced so that it can neither roll nor fall, one that can fall on its block, and the block tried. Its drive stays on.", "Where weight rests on the carriage, a rated jack or gear just takes it at that corner; nobody under it.", "That carriage’s screws out, the others tight: slide it a hand’s breadth along its rail, never off its end. A click, roughness or lost balls condemns it.", "Screws back to torque crosswise, jack eased, before the next one."], spoiltBy: "feeling it with the weight on: a broken carriage is smooth then",
  },
  {
    id: "sound-comparison", name: "Sound comparison", isolates: "bearings, nut, carriages", minutes: 10, tools: "an ear or a microphone", setup: "listening",
    findings: ["rumble", "howl", "rattle", "carriage-click", "groan", "knock", "grit"], fits: [], how: ["Listen to the axis and to a quiet sister at the same feed: in rapid, at slow feed, at the reversal."], spoiltBy: "different feeds",
  },
  {
    id: "recording", name: "Recording", isolates: "which part makes the noise", minutes: 4, tools: "telephone or tablet", setup: "listening", hears: true,
    findings: [], fits: [], how: ["Doors shut, nobody inside; without doors nobody within reach of what moves, one hand on the stop.", "Telephone or tablet fixed outside the moving space; spindle, coolant and conveyor off.", "It stands some seconds with its drives on, then goes to and fro at one feed: what it is like is worked out."], spoiltBy: "anything else that runs",
  },
  {
    id: "listen-still", name: "Listen with the axes still", isolates: "spindle sensor, drive supply", minutes: 3, tools: "an ear", free: true, setup: "listening", findings: ["grind-still", "click-descent"], fits: [],
    how: ["Every axis still, spindle turning: is the noise there?", "Then let the axis descend: does the supply click only then?"], spoiltBy: "another machine running beside it",
  },
  {
    id: "far-end", name: "Far end play", isolates: "support bearing", minutes: 15, tools: "indicator", findings: ["far-play"], fits: [{ transmission: ["direct", "belt"] }],
    how: ["Isolate. Indicator across the screw at its supported end; lift it by hand."], spoiltBy: "the screw’s own bending",
  },
  {
    id: "home-again", name: "Home five times", isolates: "home switch and marker", minutes: 10, tools: "indicator", findings: ["home-varies", "home-turn"], fits: [],
    how: ["Home the axis five times and read the same place each time.", "Bend the switch cable between two of them."], spoiltBy: "warm-up between them",
  },
  {
    id: "run-and-return", name: "Run and return", isolates: "lost steps", minutes: 8, tools: "indicator", findings: ["lost-steps"], fits: [{ feedback: ["open-loop"] }],
    how: ["Indicator at a place the axis comes back to, zeroed there; hands out.", "Run twenty strokes at the program’s own speed and acceleration, and come back from the same side.", "More than a few hundredths off, and more each time: steps are lost. The same both times is slack, not steps."], spoiltBy: "coming back from the other side: then it is slack that is read",
  },
  {
    id: "travel-check", name: "Travel against a length", isolates: "steps, lead or scale factor", minutes: 10, tools: "gauge block and indicator, or a rule over a long travel", findings: ["travel-wrong"], fits: [],
    how: ["Come from the same side each time: slack must not count.", "Command a known length at three places, and read what was moved.", "Wrong by the same share everywhere: what the control takes for a turn is wrong. Wrong by the same amount: slack."], spoiltBy: "turning round between the readings",
  },
  {
    id: "gantry-square", name: "Gantry in step", isolates: "racks of the two sides", minutes: 15, tools: "square or rule", findings: ["racks-out"], fits: [{ transmission: ["rack"], member: ["gantry"] }],
    how: ["Run the gantry slowly near one end, not onto its stops, hands out; then isolate.", "Measure from machined edges of the frame to each leg: the same on both sides?"], spoiltBy: "measuring to rough castings",
  },
  {
    id: "dragbrake-look", name: "Is a drag brake fitted?", isolates: "a drag brake nobody knew of", minutes: 5, tools: "a lamp", free: true, findings: ["dragbrake-fitted"], fits: [{ gravity: true }],
    how: ["Isolate; look only, nobody under it and hands out.", "Look at the screw’s lower bearing and behind the motor: a drum, a clutch or a felt ring round the shaft, without a wire, is a drag brake.", "Ask who knows the machine, and look in its book."], spoiltBy: "taking the motor’s own brake for it",
  },
  {
    id: "tram-look", name: "Head square", isolates: "tram", minutes: 15, tools: "indicator in the spindle", findings: ["tram-off"], fits: [{ member: ["head", "quill"] }],
    how: ["Isolate the spindle. Swing an indicator over the bare table, two points 300 mm apart."], spoiltBy: "a burr on the table",
  },
  {
    id: "scale-look", name: "Scale and read head", isolates: "feedback", minutes: 15, tools: "feeler gauge, cloth", findings: ["scale-dirty"], fits: [{ feedback: ["scale"] }],
    how: ["Isolate. Look at the scale for dirt, feel the read head for play, check its gap."], spoiltBy: "touching the scale with a hard tool",
  },
  {
    id: "in-hand", name: "A part in the hand", isolates: "the part itself", minutes: 1, tools: "none", findings: ["nut-gritty", "rough-finger", "balls-out", "carriage-broken", "insert-broken", "belt-frayed", "wiper-torn"], fits: [],
    how: ["Told at station Ask by whoever holds the part."], spoiltBy: "a part of another axis",
  },
] as const satisfies readonly LocateTest[]; // prettier-ignore
