import type { AxisConfig } from "../axis";
import type { FindChoice, StepTemplate } from "./types";

const OPEN = ["covers-off"];
const FASTENER_FINDS: readonly FindChoice[] = [
  { id: "tight", words: "all tight" },
  { id: "loose", words: "one or more loose", offersStop: true, say: "Loose fasteners imitate worn parts. Tighten them, put everything back and retest before anything is renewed." },
  { id: "rusty", words: "rust or fretting dust", say: "Red dust round a joint: it has been moving. Clean both faces before it goes back." },
]; // prettier-ignore
const PART_FINDS: readonly FindChoice[] = [
  { id: "smooth", words: "smooth" },
  { id: "rough", words: "rough or pitted" },
  { id: "dry", words: "dry", say: "Find why the grease did not come here before the new one goes dry too." },
  { id: "rusty", words: "rusty", say: "Coolant gets in: look at the seal and its lip." },
  { id: "missing", words: "balls missing", say: "Find them all before anything turns." },
]; // prettier-ignore

const lockWords = (axis: AxisConfig): string =>
  axis.lockNut === "retainer-ring" ? "retainer ring" : axis.lockNut === "double-nut-tab" ? "bearing nuts" : "bearing nut"; // prettier-ignore
const housingWords = (axis: AxisConfig): string =>
  axis.transmission === "rotating-nut"
    ? "nut-bearing housing"
    : "bearing housing";

/** From the motor to the far end: what comes off, and how it goes back on. */
export const DRIVE_STEPS: readonly StepTemplate[] = [
  {
    id: "tighten-found", scope: "axis", phase: "work", does: "tightened", needs: ["covers-off"], minutes: 10, reachIn: true,
    words: { title: "Tighten what was loose, to torque, and mark it", why: "Two bolts cost nothing; a screw does.", how: ["Clean thread and face, a drop of locking fluid where the book says so.", "Crosswise to torque.", "Mark each with a line of paint."], good: "None turns below torque any more." }, torque: "housing", tools: ["torque wrench", "paint marker"], consumables: ["thread locking fluid"],
  },
  {
    id: "belt-off", scope: "axis", phase: "work", opens: "belt-off", needs: OPEN, minutes: 6, reachIn: true,
    words: { title: "Slacken and take the belt off", why: "It ties motor and screw together.", how: ["Mark belt and both pulleys to each other.", "Slacken the motor plate, belt off without a lever."], good: "No cracked or missing teeth." },
    tools: ["hex keys", "marker"], finds: [{ id: "sound", words: "sound" }, { id: "worn", words: "worn or cracked", say: "Renew it now: it is cheaper than opening again." }], photo: "belt marks",
  },
  {
    id: "belt-on", scope: "axis", phase: "work", closes: "belt-off", needs: OPEN, minutes: 10, reachIn: true, after: ["motor-on"],
    words: { title: "Belt on, tensioned", why: "Slack is lost motion; too tight ruins the bearings.", how: ["Marks to marks.", "Tension by its frequency or by the maker’s deflection, then tighten the plate and measure again."], good: "Within the maker’s range after tightening." },
    torque: "housing", tools: ["belt tension gauge or phone microphone"], reading: { label: "Belt frequency, Hz", quantity: "number", from: 10, to: 500, optional: true },
  },
  {
    id: "coupling-open", scope: "axis", phase: "work", opens: "coupling-open", needs: OPEN, minutes: 6, reachIn: true,
    words: { title: "Loosen the coupling screws that face you", why: "The hub on the screw lets go; the other stays with the motor.", how: ["Turn by hand until the screws face you.", "Try each first: does it turn below its torque?", "Loosen, do not take out; never strip a socket."], good: "The hub turns on the shaft by hand." },
    tools: ["hex keys", "torque wrench"], finds: [{ id: "tight", words: "screws tight" }, { id: "loose", words: "a screw was loose", offersStop: true, say: "A loose coupling screw is lost motion by itself. Tighten it to torque and retest before anything else is opened." }],
  },
  {
    id: "coupling-shut", scope: "axis", phase: "work", closes: "coupling-open", does: "coupling-square", needs: OPEN, minutes: 13, reachIn: true, after: ["motor-on"],
    words: (axis) => ({ title: "Coupling square, clear of the brake, to torque", why: "An eccentric or jammed coupling runs once per turn for ever.", how: ["Set its gap with a feeler; nothing pushes endwise.", "Tighten crosswise in three rounds.", axis.coupling === "insert" ? "The insert with a little endwise play." : "No twist left in the flexible part.", "Mark both hubs to their shafts."], good: "Turns by hand without a high spot.", ifNot: "Loosen and set it again: it does not run itself in." }),
    torque: "small", tools: ["torque wrench", "feeler gauges", "marker"], photo: "coupling with its marks",
  },
  {
    id: "new-insert", scope: "axis", phase: "work", needs: ["coupling-open", "motor-off"], minutes: 3, reachIn: true,
    words: { title: "New coupling insert", why: "It is apart: the part costs little.", how: ["Same hardness as before, read off the old one."], good: "It sits without force." }, parts: [{ name: "coupling insert", count: 1, order: true, cost: "small" }],
  },
  {
    id: "renew-coupling", scope: "axis", phase: "work", needs: ["coupling-open", "motor-off"], minutes: 13, reachIn: true, does: "coupling-renewed",
    words: { title: "Change or reset the coupling", why: "It slips, springs or runs out.", how: ["Clean both shafts, no oil in clamp hubs.", "Measure run-out of both shafts before the new one hides it.", "New hubs on to the depth of the old."], good: "Shaft run-out below 0.02 mm.", ifNot: "A bent shaft: stop and say so; a coupling does not cure it." },
    parts: [{ name: "coupling", count: 1, order: true, cost: "small" }], reading: { label: "Shaft run-out", quantity: "deviation", from: 0, to: 0.02, optional: true }, tools: ["indicator on a magnetic base"],
  },
  {
    id: "motor-off", scope: "axis", phase: "work", opens: "motor-off", needs: [...OPEN, "@front"], minutes: 13, people: 2, reachIn: true,
    words: (axis) => ({ title: axis.brake ? "Motor with its brake off, as one piece" : "Motor off", why: "The bearing nut is behind it.", how: ["Mark it to its flange.", "Plugs out and covered, cable not hung on.", "Support the weight while the last screw comes out; draw it straight."], caution: axis.brake ? "The brake goes with the motor: from now on only the block holds." : "Heavy and awkward: two people.", good: "It lies on a bench, shaft covered." }),
    tools: ["hex keys", "lifting strap"], torque: "housing",
  },
  {
    id: "motor-on", scope: "axis", phase: "work", closes: "motor-off", needs: [...OPEN, "@front"], after: ["float-bracket", "set-preload", "housing-tight", "far-shut"],
    minutes: 13, people: 2, reachIn: true,
    words: { title: "Motor on", why: "Last in the tightening order.", how: ["Faces clean, marks to marks.", "Screws hand-tight, turn the screw by hand, then crosswise to torque.", "Plugs in and locked."], good: "The screw turns as freely as without it." }, torque: "housing", tools: ["torque wrench"],
  },
  {
    id: "tab-open", scope: "axis", phase: "work", opens: "tab-open", needs: [...OPEN, "motor-off"], minutes: 3, reachIn: true,
    words: { title: "Unfold the lock tab", why: "It locks the nuts to each other.", how: ["Fold it flat with a drift, note which slot it sat in."], good: "Flat and whole.", ifNot: "Cracked: a new washer goes in." }, tools: ["drift", "hammer", "eye protection"], parts: [{ name: "tab washer", count: 1, order: true, cost: "small" }],
  },
  {
    id: "tab-fold", scope: "axis", phase: "close", closes: "tab-open", needs: ["covers-off", "isolated-again"], minutes: 3,
    words: { title: "Fold the tab", why: "Only now: the retest has passed.", how: ["Into the slot that fits; never turn the nut to make one fit."], good: "It lies flat in its slot." }, tools: ["drift", "hammer", "eye protection"], photo: "the folded tab",
  },
  {
    id: "housing-loose", scope: "axis", phase: "work", opens: "housing-loose", does: "fasteners-seen", needs: [...OPEN, "bumper-off", "motor-off"], minutes: 6, reachIn: true,
    words: (axis) => ({ title: `Try, then loosen the ${housingWords(axis)} screws`, why: "Stop here if they were not tight: that may be all that is wrong.", how: ["Put the torque wrench on every screw before you loosen any.", "Note what turned below torque.", "Then loosen crosswise."], good: "You know which were tight.", ifNot: "Loose: tighten, put it back and retest before any part is bought." }),
    torque: "housing", tools: ["torque wrench", "hex keys"], finds: FASTENER_FINDS,
  },
  {
    id: "nut-off", scope: "axis", phase: "work", opens: "nut-off", needs: [...OPEN, "motor-off", "@tab"], minutes: 13, reachIn: true,
    words: (axis) => ({
      title: axis.lockNut === "double-nut-tab" ? "Hold the lower nut, break the upper; both off" : `${axis.lockNut === "retainer-ring" ? "Retainer ring" : "Bearing nut"} off`, why: "It clamps the bearing set.",
      how: [axis.lockNut === "retainer-ring" ? "Try the cap screws for tightness first, then out crosswise." : axis.transmission === "rotating-nut" ? "Hold the nut’s pulley from turning; spanner in both pins." : "Hold the screw from turning; spanner in both pins.", axis.lockNut === "clamp-nut" ? "Clamp screw loose before it is turned." : "Count the turns.", "A shrunk ring: gentle heat, seal kept cool with a wet cloth; no flats ground on the screw."],
      caution: "Heat and solvent away from each other. Eye protection.", good: "The thread is clean and whole.",
    }),
    tools: ["pin or hook spanner", "strap wrench"], finds: FASTENER_FINDS,
  },
  {
    id: "pins-out", scope: "axis", phase: "work", opens: "pins-out", needs: ["housing-loose"], minutes: 3, reachIn: true,
    words: { title: "Pins out", why: "They place the housing.", how: ["Draw them by their thread; mark which hole."], good: "They come straight.", ifNot: "Stuck: a puller, never a lever on the housing." }, tools: ["pin puller", "eye protection"], photo: "pins with their holes",
  },
  {
    id: "shims-out", scope: "axis", phase: "work", opens: "shims-out", needs: ["housing-loose"], minutes: 3, reachIn: true,
    words: { title: "Shims out, each marked with its place", why: "They put the screw in line; mixed up, the axis binds.", how: ["One bag a place; measure and write the thickness.", "None there: say so."], good: "Every shim has a place and a number." }, tools: ["micrometer", "bags and marker"], reading: { label: "Shims together", quantity: "length", from: 0, to: 5, optional: true }, photo: "the shims on their marks",
  },
  {
    id: "housing-off", scope: "axis", phase: "work", opens: "housing-off", needs: ["housing-loose", "pins-out", "shims-out", "motor-off"], minutes: 10, reachIn: true, people: 2,
    words: (axis) => ({ title: `${axis.transmission === "rotating-nut" ? "Nut-bearing housing" : "Bearing housing"} off`, why: "The bearing set comes out with it or from it.", how: ["Draw it straight by its jack threads.", "Support it: it is heavier than it looks."], good: "It comes without a knock." }), tools: ["jack screws", "lifting strap"],
  },
  {
    id: "spacer-out", scope: "axis", phase: "work", opens: "spacer-out", needs: ["nut-off"], minutes: 2, reachIn: true,
    words: { title: "Spacer out", why: "Its width sets the preload: it goes back, or its change is recorded.", how: ["Measure it at three places and write it down; note which face was out."], good: "Three equal widths." }, tools: ["micrometer"], reading: { label: "Spacer width", quantity: "length", from: 0, to: 100, optional: true },
  },
  {
    id: "bearing-out", scope: "axis", phase: "work", opens: "bearing-out", needs: ["housing-off", "nut-off", "spacer-out"], minutes: 13, reachIn: true,
    words: { title: "Bearing set out", why: "It is what the job is for.", how: ["Note the direction of each ring before it moves: the marks on the outside form an arrow.", "Draw by the ring that is tight."], caution: "Eye protection when driving anything out.", good: "Order and direction are written down." }, tools: ["bearing puller", "eye protection"], photo: "the set as it lay", finds: PART_FINDS,
  },
  {
    id: "finger-feel", scope: "axis", phase: "work", does: "finger-felt", needs: ["housing-off"], minutes: 2, reachIn: true, after: ["bearing-out"],
    words: { title: "Finger feel", why: "Any roughness condemns it; a smooth one makes you look elsewhere.", how: ["Turn the inner ring with a fingertip, lightly loaded, both ways."], good: "You know: rough or smooth.", ifNot: "Smooth, and the loss was in the bearings? Then it was the clamping. Look at nut, spacer and faces." }, finds: PART_FINDS,
  },
  {
    id: "back-drive", scope: "axis", phase: "work", does: "back-driven", needs: ["housing-off", "nut-off", "bearing-out"], minutes: 3, reachIn: true,
    words: { title: "Does the freed screw wind down by itself?", why: "Free of its bearings, the screw tells of the nut: with its preload gone it runs down under the weight it carries.", how: ["The member stands on its tried block; nobody under it.", "Turn the screw a quarter turn by hand, let go, watch its mark."], caution: "Fingers out of the thread: it may run by itself.", good: "It stays where you leave it." },
    finds: [{ id: "stays", words: "stays" }, { id: "winds", words: "winds down", offers: "ball-nut", say: "The nut has lost its preload. Service or renew it while the axis is open." }],
  },
  {
    id: "clean-seat", scope: "axis", phase: "work", does: "seat-clean", needs: ["bearing-out"], minutes: 10, reachIn: true,
    words: { title: "Clean seat, shoulder and faces", why: "A chip of 10 µm is 10 µm of run-out.", how: ["Wipe, stone the burrs, wipe again; no wool.", "Look at the seal and its lip."], caution: "Solvent: air and gloves, nothing hot near.", good: "A clean cloth stays clean." }, consumables: ["lint-free cloths", "fine stone", "solvent"], parts: [{ name: "shaft seal", count: 1, order: true, cost: "small" }],
  },
  {
    id: "bearing-in", scope: "axis", phase: "work", closes: "bearing-out", needs: ["housing-off", "nut-off", "spacer-out", "seat-clean"], minutes: 20, reachIn: true,
    words: { title: "New set in, as the old lay", why: "Turned round, it carries nothing.", how: ["Direction as noted: back to back, face to face or in a row.", "Grease 0.005·D·B grams a bearing, no more.", "Press on the outer ring only when it goes into a bore, on the inner only when onto a journal; never through the balls.", "By hand first, until it runs true."], good: "Seated all round, turns smoothly.", ifNot: "Stop pressing: a bearing that goes crooked is scrap." },
    parts: [{ name: "end-bearing set", count: 1, order: true, cost: "bearing-set" }], consumables: ["bearing grease of the maker"], tools: ["arbor press or sleeve", "scale for the grease"], photo: "the new set’s direction",
  },
  {
    id: "spacer-in", scope: "axis", phase: "work", closes: "spacer-out", needs: ["nut-off"], minutes: 3, reachIn: true, after: ["bearing-in"],
    words: { title: "Spacer in", why: "The old one, or the make-up width that fills the new set.", how: ["Same face out.", "An older pattern: measure depth and set, grind the make-up spacer to the difference (Sums)."], good: "No gap under the nut." }, tools: ["micrometer"],
  },
  {
    id: "housing-on", scope: "axis", phase: "work", closes: "housing-off", needs: ["housing-loose", "pins-out", "shims-out", "motor-off"], minutes: 10, reachIn: true, people: 2, after: ["bearing-in", "spacer-in"],
    words: { title: "Housing on, all screws in loose", why: "Loose enough to find its place.", how: ["Faces clean, a film of oil.", "Every screw in by hand."], good: "It sits flush." },
  },
  {
    id: "pins-in", scope: "axis", phase: "work", closes: "pins-out", needs: ["housing-loose"], without: ["housing-off"], minutes: 3, reachIn: true,
    words: { title: "Pins in, before the shims block them", why: "They place the housing where it was.", how: ["By hand, then a light tap."], good: "They go in by their own holes." }, tools: ["soft hammer", "eye protection"],
  },
  {
    id: "shims-in", scope: "axis", phase: "work", closes: "shims-out", needs: ["housing-loose"], without: ["housing-off"], minutes: 3, reachIn: true, after: ["pins-in"],
    words: { title: "Shims back, each in its place", why: "As they were, unless the alignment changes them.", how: ["From their bags, by their marks.", "Changed by an alignment: write the new thickness."], good: "Nothing left in the bags." }, reading: { label: "Shims together", quantity: "length", from: 0, to: 5, optional: true },
  },
  {
    id: "nut-on", scope: "axis", phase: "work", closes: "nut-off", needs: ["motor-off"], minutes: 10, reachIn: true, after: ["housing-on", "spacer-in"],
    words: (axis) => ({ title: `${lockWords(axis)[0].toUpperCase()}${lockWords(axis).slice(1)} on by hand`, why: "Preload comes next, not now.", how: [axis.lockNut === "double-nut-tab" ? "Bevelled faces away from each other, or as found; tab washer between." : "Thread oiled, as found.", "By hand to the stop."], good: "It runs down by hand." }),
  },
  {
    id: "set-preload", scope: "axis", phase: "work", does: "preload-set", needs: ["motor-off", "@tab"], without: ["nut-off"], minutes: 13, reachIn: true,
    words: (axis, options) => ({
      title: "Set the preload", why: "Too little floats, too much gets hot.",
      how: [
        options.preload === "torque" ? `Tighten to the torque of the machine’s book, in two goes, turning the ${axis.transmission === "rotating-nut" ? "nut" : "screw"} between.` : options.preload === "drag" ? "Tighten until the drag by cord pull lies in the window (Sums gives it)." : "Tighten until a flick of the screw end spins a little and comes to rest by itself.",
        "Record the feel always: coasts freely, comes to rest, will not turn.",
        axis.orientation === "horizontal" ? "Then lock it: clamp screw or second nut, the first held." : "The loaded bearing is the top one: tightening the top nut must not lift the screw against the lower. Watch an indicator on the screw’s end.",
        "Measure again after locking: locking pulls.",
      ],
      good: "Drag in its window and no endwise float by hand.", ifNot: "Too tight: back a quarter turn and again. It does not run in.",
    }),
    torque: "bearing-nut", tools: ["torque wrench with pin spanner", "cord and spring scale"], reading: { label: "Drag torque", quantity: "torque", from: 0, to: 20, optional: true },
  },
  {
    id: "housing-tight", scope: "axis", phase: "work", closes: "housing-loose", needs: ["motor-off"], minutes: 10, reachIn: true, after: ["set-preload", "pins-in", "shims-in", "nut-on"],
    words: { title: "Housing to torque, member at this end", why: "The nut centres the housing when it is near.", how: ["Member as near to this end as it goes, by the screw by hand.", "Crosswise in three rounds.", "Turn the screw by hand: as free as before."], good: "No change of feel while tightening.", ifNot: "Loosen, move the member nearer, and again." }, torque: "housing", tools: ["torque wrench"],
  },
  {
    id: "far-open", scope: "axis", phase: "work", opens: "far-open", needs: OPEN, minutes: 10, reachIn: true,
    words: { title: "Open the far end support", why: "It carries the screw’s other end.", how: ["Sling or block the screw so that it does not hang on its nut.", "Mark the housing to its casting; shims in a bag."], caution: "A long screw bends under its own weight.", good: "The screw rests on its support." }, tools: ["hex keys", "sling or wooden vee"], finds: FASTENER_FINDS,
  },
  {
    id: "far-shut", scope: "axis", phase: "work", closes: "far-open", needs: OPEN, minutes: 13, reachIn: true, after: ["housing-tight"],
    words: { title: "Close the far end, member at that end", why: "Tightened there, it is in line with nut and ways.", how: ["Member to the far end.", "Housing screws crosswise to torque.", "The ring must be free to slide: it supports, it does not hold."], good: "Turns as free at both ends.", ifNot: "Tight towards this end: loosen and again." }, torque: "housing", tools: ["torque wrench"],
  },
  {
    id: "far-bearing-out", scope: "axis", phase: "work", opens: "far-bearing-out", needs: ["far-open"], minutes: 10, reachIn: true,
    words: { title: "Far end bearing off", why: "It is worn, or in the way of the screw.", how: ["Circlip off with eye protection.", "Draw it by its inner ring."], good: "Journal bright, no blue." }, tools: ["circlip pliers", "bearing puller", "eye protection"], finds: PART_FINDS,
  },
  {
    id: "far-bearing-in", scope: "axis", phase: "work", closes: "far-bearing-out", needs: ["far-open"], minutes: 10, reachIn: true,
    words: { title: "New far end bearing on", why: "It guides the screw, free to slide.", how: ["On the journal by its inner ring.", "Circlip with its sharp side out."], good: "Slides in its housing by hand." }, parts: [{ name: "support bearing", count: 1, order: true, cost: "small" }, { name: "circlip", count: 1, cost: "small" }], tools: ["sleeve"],
  },
]; // prettier-ignore
