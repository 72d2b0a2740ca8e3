import { memberMass } from "../machine/mechanism";
import { eased, easingText, FASTENER_FINDS, gravity, made, memberOf, to, tried, weightText } from "./said";
import type { StepContext, StepKind } from "./step-kind";

type Config = StepContext["config"];
const isRack = (c: Config): boolean => c.transmission === "rack";
const WAY_FINDS = [
  { id: "sound", label: "rail sound, carriage smooth" },
  { id: "clicks", label: "clicks or catches, unloaded" },
  {
    id: "missing",
    label: "balls missing",
    say: "Find them before anything moves.",
  },
  {
    id: "pitted",
    label: "rail pitted",
    say: "A pitted rail eats the new carriage: renew it too.",
  },
];

const CORNERS = ["one corner", "the corner opposite", "the third corner", "the last corner"] as const;
/** Carriages one by one, each signed: the others keep the member in line. */
// prettier-ignore
const CARRIAGES: readonly StepKind[] = CORNERS.map((corner, i): StepKind => ({
  id: `carriage-${i + 1}`, phase: "work", hands: "in", power: "isolated", minutes: 22, uses: ["load-touching"],
  effects: [to("carriages", "loose"), to("carriages", "off"), to("carriages", "tight"), made(`carriage-${i + 1}-renewed`)], torques: ["carriages"],
  text: ({ config }) => ({ title: `Carriage at ${corner}: off, felt, new one on`, why: i === 0 ? "One at a time: the others keep the member in line." : "Opposite corners in turn.", how: [...(i === 0 ? [] : ["The jack over to this corner: braced, just touching, the needle as before."]), "Outer plate or wiper first. Screws out; if they bind under tension, brace again first.", "Now it is unloaded: push it to and fro, feel and listen. Under load it hides what it is.", "Slide it off; look along the rail.", "New one over its transport rail until it slides across; nipple outwards; greased.", config.guideway === "rail" ? "Reference edge first, then crosswise to torque." : "Crosswise to torque."], caution: "Never a hand between rail and member.", good: "Slides by hand without a catch; the indicator came back." }),
  finds: WAY_FINDS, parts: [{ name: "rail carriage", count: 1, of: "carriages", order: true, cost: "bearing-set" }], tools: ["hex keys", "torque wrench", "transport rail", "jack", "indicator on a magnetic base"], consumables: ["carriage grease"],
}));

/** Guideway, rack, switch, head and column. Common practice, no source. */
// prettier-ignore
export const WAY_STEPS: readonly StepKind[] = [
  {
    id: "try-all", phase: "work", hands: "in", power: "isolated", minutes: 12, needs: [{ joint: "covers", at: "off", side: "open" }], effects: [made("tried-all")],
    text: { title: "Every fastener that can be reached: tried at torque, marked", why: "Two bolts cost nothing; a screw does.", how: ["Torque wrench on each, in the sense of tightening. Note which turned, and how far.", "Those that turned: out one at a time, thread and face clean, locking fluid where the book says so, to torque.", "Mark each with a line of paint."], good: "None turns below torque any more." }, tools: ["torque wrench", "hex keys", "paint marker"], consumables: ["thread locking fluid"], finds: FASTENER_FINDS.map((f) => ({ ...f, offersStop: false })),
  },
  {
    id: "mesh-clear", phase: "work", hands: "in", power: "isolated", minutes: 6, fits: isRack, effects: ({ config, state }) => eased(config, state, [to("mesh", "loose")]),
    text: ({ config, state }) => ({ title: "Pinion clear of the rack", why: "The member must roll, or the pinion be reached.", how: ["Carrier screws tried, then loose; the carrier back against its spring or by its screw.", ...easingText(config, state)], good: gravity(config) ? "Block and nothing else carries." : "The member rolls by hand." }), tools: ["hex keys", "torque wrench"],
  },
  {
    id: "pinion-set", phase: "work", hands: "in", power: "isolated", minutes: 12, fits: isRack, needs: [{ joint: "mesh", at: "loose", side: "open" }], effects: [tried("pinion"), to("pinion", "loose"), to("pinion", "tight"), made("pinion-set")], torques: ["pinion"],
    text: { title: "Pinion on its flat, its screws tight; renewed where worn", why: "A pinion that walks loses steps as a worn rack does.", how: ["Grub screws tried: loose? That may be all.", "Teeth: hooked or thin at the tips, renew it; wipe the shaft, screw on the flat.", "Clear of the frame all round; locking fluid where the book says so."], good: "It cannot be turned on its shaft, it rubs nowhere." }, parts: [{ name: "pinion", count: 1, of: "pinion", order: true, cost: "small" }], tools: ["hex keys", "torque wrench"], consumables: ["thread locking fluid"], finds: [{ id: "tight", label: "screws tight, teeth worn" }, { id: "loose", label: "screws loose", say: "Tight on the flat, marked, and measured again before a pinion is bought." }],
  },
  {
    id: "find-spot", phase: "work", hands: "in", power: "isolated", minutes: 8, fits: (c) => isRack(c) && !gravity(c), verbs: ["push"], needs: [{ joint: "covers", at: "off", side: "open" }], effects: [made("spot-found")],
    text: { title: "Push it along to the tight spot, brush out, mark", why: "A chip in a tooth is a tight spot too.", how: ["Drive plug out; push slowly, mark where it begins and ends.", "Brush out teeth; look for a raised joint between two racks."], caution: "Clear of the ends; two hands on the member, none near the teeth.", good: "The place is marked." }, tools: ["brush", "marker"], finds: [{ id: "chip", label: "a chip in a tooth", offersStop: true, say: "Often that was all: push again before anything is loosened." }, { id: "joint", label: "raised joint" }, { id: "none", label: "nothing to see" }],
  },
  {
    id: "loosen-rack", phase: "work", hands: "in", power: "isolated", minutes: 5, fits: isRack, uses: ["spot-found"], effects: [tried("rack"), to("rack", "snug")],
    text: { title: "Rack screws around the spot snug", why: "The pinion sets the rack’s depth by itself.", how: ["Three each side of the mark, tried first, then just loose enough.", "The rest stays tight: it is the reference."], good: "The rack gives by hand." }, tools: ["hex keys", "torque wrench"],
  },
  {
    id: "set-rack", phase: "work", hands: "in", power: "isolated", minutes: 12, fits: (c) => isRack(c) && !gravity(c), restores: true, verbs: ["push"], effects: [to("rack", "tight")], torques: ["rack"],
    text: { title: "Pinion over the spot, a paper’s play, tighten; move on", why: "Mesh alike all along.", how: ["Strip of paper in the mesh, member stopped over the spot: tighten the middle pair.", "Move on by hand, stop, tighten the next: from the middle outwards.", "A gantry’s two racks stay in step: count teeth from the same end."], good: "Even push over the whole length." }, tools: ["torque wrench", "paper strips"],
  },
  {
    id: "mesh-set", phase: "work", hands: "in", power: "isolated", minutes: 8, fits: isRack, restores: true, effects: [to("mesh", "tight"), made("mesh-set")], torques: ["mesh"],
    text: { title: "Pinion in, a paper’s play, carrier screws to torque", why: "Tight it growls, loose it loses.", how: ["Strip of paper in the mesh, press in, tighten crosswise, paper out.", "Where the drive moves by hand: feel it over a turn of the pinion."], good: "No play at the pinion that a fingertip feels, no high spot." }, tools: ["torque wrench", "paper strips"],
  },
  {
    id: "square-gantry", phase: "work", hands: "in", power: "isolated", minutes: 20, fits: (c) => c.member === "gantry" && isRack(c), needs: [{ joint: "mesh", at: "loose", side: "open" }], effects: [made("squared")],
    text: { title: "Square the gantry by hand, one side clear", why: "Its two sides went out of step.", how: ["The master side stays in its rack. Push the other to the stop or to a square laid on the table, long side along.", "Measure both diagonals of four marks; push until they are alike.", "Clamp it there while its pinion goes in at the nearest tooth; the rest by the side’s adjuster."], good: "Diagonals alike within what the machine held before." }, tools: ["large square", "caliper or steel rule", "clamps"], reading: { label: "Difference of the diagonals", quantity: "deviation", from: 0, to: 0.5, optional: true },
  },
  {
    id: "square-rails", phase: "work", hands: "in", power: "isolated", minutes: 25, fits: (c) => c.guideway === "rail" && !isRack(c), effects: [to("carriages", "snug"), to("carriages", "tight"), made("squared")], torques: ["carriages"],
    text: ({ config }) => ({ title: "Carriage screws snug, then to torque from the reference side", why: "The order in which they are tightened decides whether the axis stands askew.", how: ["All snug, none out: it cannot lift.", `Square on the table against the ${memberOf(config)}; tap until it reads alike at both ends.`, "Reference side first, from the middle outwards; then the other side."], good: "The indicator along the square reads alike at both ends." }), tools: ["torque wrench", "hex keys", "large square", "indicator on a magnetic base", "soft hammer"],
  },
  {
    id: "hold-load", phase: "work", hands: "in", power: "isolated", minutes: 8, effects: [made("load-touching")], needs: [{ joint: "covers", at: "off", side: "open" }],
    text: ({ config }) => ({ title: `Jack just touching the ${memberOf(config)}, indicator at the corner`, why: "A carriage comes off only unloaded.", how: [`It weighs ${weightText(config)}: a jack at the corner, until the needle begins to move, and back.`, "Brace it so that it cannot slip off the jack."], caution: "Never a hand between rail and member.", good: "The needle stands still as the screws come out." }), people: ({ config }) => (memberMass(config).kg > 40 ? 2 : 1), tools: ["jack", "indicator on a magnetic base"],
  },
  ...CARRIAGES,
  {
    id: "release-load", phase: "work", hands: "in", power: "isolated", minutes: 4, uses: ["carriage-4-renewed"], needs: [{ joint: "carriages", at: "tight", side: "shut" }],
    text: { title: "Jack away, member on its own carriages", why: "The indicator says whether it stands as before.", how: ["Slowly, watching the needle; the screws of every carriage once more at torque."], good: "The needle came back to where it was." }, tools: ["torque wrench"],
  },
  {
    id: "loosen-gib", phase: "work", hands: "in", power: "isolated", minutes: 6, effects: [to("gib", "snug")],
    text: { title: "Back the gib off until it is just free", why: "The curve begins clearly loose.", how: ["Note turns and place of the adjuster.", "Small-end screw first: it only holds and backs off; then the large end."], good: "The member rocks a little." }, tools: ["screwdriver for the adjuster"],
  },
  {
    id: "set-gib-rock", phase: "work", hands: "in", power: "isolated", minutes: 20, restores: true, verbs: ["rock"], effects: [to("gib", "tight"), made("gib-set")],
    text: { title: "Gib in until rocking just goes", why: "Past that it only drags and wears.", how: ["Rock by hand, indicator across it, turning in by small steps (gib setting at station Set takes it).", "Small-end screw against it; rock once more."], good: "No rock above 0.02 mm.", ifNot: "Goes at one end only: the way is worn there; set it for the tight end." }, tools: ["indicator on a magnetic base", "screwdriver for the adjuster"],
  },
  {
    id: "set-gib", phase: "prove", hands: "out", power: "on", minutes: 26, restores: true, verbs: ["jog"], effects: [to("gib", "tight"), made("gib-set")],
    text: ({ config, options }) => ({
      title: "Set the gib, powered, hands out between readings", why: "Past the knee of its friction there is hardly any stiffness to gain, and wear climbs.",
      how: [
        "The adjuster is turned only with the axis stopped, from outside the travel; then hands out, then move.",
        ...(options.gib === "knee" ? [config.motor === "servo" ? "In by quarters; at each the load over the whole travel (gib setting at station Set finds where drag begins). Rock it by hand only isolated." : "In by quarters; at each a slow jog end to end: where the stepper begins to labour, drag has begun.", "Back from the knee by 5 µm of clearance."] : options.gib === "seize-and-back" ? ["In until the slowest jog labours, back until the full travel is free."] : ["In by quarters; at each reverse the axis against the indicator (gib setting at station Set finds where it falls no further)."]),
        "Small-end screw against it without turning the adjuster; read once more.",
      ],
      caution: "One hand on the stop. Never a finger at the gib while it moves.", good: "Even end to end, no rock above 0.02 mm.", ifNot: "Tight at one end only: the way is worn there; set it for the tight end.",
    }),
    tools: ["screwdriver for the adjuster", "indicator on a magnetic base"],
  },
  {
    id: "loosen-wheels", phase: "work", hands: "in", power: "isolated", minutes: 3, effects: [to("v-wheels", "loose")],
    text: { title: "Ease the eccentric spacers, one plate at a time", why: "Contact is set from free.", how: ["Hold the axle, turn the spacer away from the rail."], good: "Its wheel turns freely." }, tools: ["two spanners"],
  },
  {
    id: "set-wheels", phase: "work", hands: "in", power: "isolated", minutes: 13, restores: true, effects: [to("v-wheels", "tight"), made("wheels-set")],
    text: { title: "Each wheel until it just turns by hand", why: "Pinched bearings die, free wheels wobble.", how: ["Turn the spacer until the wheel touches; in contact it must just turn by hand.", "Hold the spacer while its screw is tightened; the screw must not pinch the wheel’s bearing: turn it again.", "Two wheels tight and loose on one plate: it stands askew; in turns, a little each."], good: "No wheel free, none stuck." }, tools: ["two spanners"], parts: [{ name: "V-wheel with bearings", count: 1, of: "v-wheels", order: true, cost: "small" }],
  },
  {
    id: "relieve-cage", phase: "work", hands: "in", power: "isolated", minutes: 6, effects: [to("cage", "loose")],
    text: { title: "Rail clamping screws loose, then each preload screw a quarter turn", why: "A squeezed cage creeps instead of rolling.", how: ["In that order; note the place of each.", "No more than a quarter: the rollers must not tip."], good: "The slide moves with a light push." }, tools: ["hex keys"],
  },
  {
    id: "cage-far", phase: "work", hands: "in", power: "isolated", minutes: 3, at: "near-far", prefers: "push", needs: [{ joint: "cage", at: "loose", side: "open" }], effects: [made("cage-far")],
    text: { title: "At the far stop: has it come all the way?", why: "The stop pushes the cage back towards its middle.", how: ["Gently against the stop, three times."], good: "It reaches the stop." },
  },
  {
    id: "cage-near", phase: "work", hands: "in", power: "isolated", minutes: 3, at: "near-fixed", prefers: "push", uses: ["cage-far"], needs: [{ joint: "cage", at: "loose", side: "open" }], effects: [made("cage-near")],
    text: { title: "At the near stop: full travel", why: "Both stops reached is the proof that the cage is central.", how: ["Gently against the stop; measure from stop to stop."], good: "The full travel of this axis.", ifNot: "Short: to and fro again, or a roller is damaged." }, reading: ({ config }) => ({ label: "Travel from stop to stop", quantity: "length", from: 0.98 * config.travelMm, to: 1.2 * config.travelMm + 20 }), tools: ["steel rule"],
  },
  {
    id: "centre-cage", phase: "work", hands: "in", power: "isolated", minutes: 12, restores: true, uses: ["cage-near"], effects: [to("cage", "tight"), made("cage-centred")], torques: ["cage"],
    text: { title: "Preload screws by fingertips, those over the cage; clamping screws last", why: "Tight it creeps again.", how: ["Only the preload screws that stand over the cage; move it, then the others.", "Shake test: indicator across the member, no play.", "Clamping screws last. Cover pushed up so that it cannot rub."], good: "Full travel, no play.", ifNot: "It creeps again: a stop or a roller is damaged." }, tools: ["hex keys", "indicator on a magnetic base"],
  },
  {
    id: "loosen-antibacklash", phase: "work", hands: "in", power: "isolated", minutes: 3, effects: [to("antibacklash", "loose")],
    text: { title: "Jam nut back, anti-backlash nut free", why: "It is set from free.", how: ["Clean the thread."], good: "It turns by fingers." }, tools: ["spanners"],
  },
  {
    id: "set-antibacklash", phase: "work", hands: "in", power: "isolated", minutes: 6, restores: true, effects: [to("antibacklash", "tight"), made("antibacklash-set")],
    text: { title: "Until it just touches; jam nut without moving it", why: "Tighter only eats torque and wears.", how: ["By fingers until play just goes.", "Hold it, jam nut against it; feel for play again."], good: "No play, no catch." }, tools: ["spanners"],
  },
  {
    id: "switch-off", phase: "work", hands: "in", power: "isolated", minutes: 6, effects: [to("home-switch", "off")],
    text: { title: "Home switch and its cable off", why: "A broken cable makes and breaks as it bends.", how: ["Mark the switch’s place and the cable’s slack.", "Meter on it, bend the old cable along its length: it shows where."], good: "You know which of the two it was." }, tools: ["meter", "hex keys", "marker"], finds: [{ id: "dirty", label: "switch dirty", say: "Clean and dry it, and look why coolant gets there." }, { id: "cable", label: "cable broken" }, { id: "sound", label: "both sound" }], photo: "the switch’s place",
  },
  {
    id: "switch-on", phase: "work", hands: "in", power: "isolated", minutes: 15, restores: true, effects: [to("home-switch", "tight"), made("switch-renewed")], torques: ["home-switch"],
    text: { title: "New switch and cable in the old place", why: "Home must come back where it was.", how: ["Same place by its mark; cable of the same length, the same slack at the bend, tied twice.", "Trip it by hand, meter on it: it makes and breaks once."], good: "It trips clean." }, parts: [{ name: "home switch with cable", count: 1, of: "home-switch", order: true, cost: "small" }], tools: ["meter", "hex keys", "torque wrench"],
  },
  {
    id: "marker", fits: (c) => c.motor === "servo", phase: "prove", hands: "out", power: "on", minutes: 6, verbs: ["creep"], effects: [made("marker-known")],
    text: { title: "Distance from trip to marker", why: "Within a fifth of a turn from the marker, home can jump a whole turn.", how: ["Creep onto the switch, read where it trips and where the marker comes; over one turn’s travel.", "Outside a fifth to four fifths: shift the switch, or turn the hub (Sums: home marker)."], good: "Near half a turn." }, reading: { label: "Trip to marker, turns", quantity: "turns", from: 0.2, to: 0.8 },
  },
  {
    id: "head-loose", phase: "work", hands: "in", power: "isolated", minutes: 6, uses: ["sweep-known"], effects: [tried("head"), to("head", "snug")],
    text: ({ config }) => ({ title: "Head bolts eased, never out", why: "A shim goes in by a finger’s width of thread.", how: [gravity(config) ? "It stands on its block; gear just touching where the block does not carry it level." : "Gear or a jack just touching: it can swing or drop.", "Ease crosswise, a quarter turn; those of the side that rises a hair more."], caution: "Heavy and out of balance. Nobody under it, no finger in the gap.", good: "A shim can be slid in." }), people: 2, tools: ["spanners", "jack"],
  },
  {
    id: "shim-head", phase: "work", hands: "in", power: "isolated", minutes: 26, restores: true, effects: [to("head", "tight"), made("head-square")], torques: ["head"],
    text: { title: "Shims in as station Set says, tighten, look at the sweep to come", why: "The side that is too near the work must rise; what rises it follows from what is shimmed.", how: ["Whole faces, clean, no stack above three.", "Crosswise to torque in three rounds.", "A head that only leans sideways on its face is turned there, not shimmed."], good: "Shims as listed, none left over." }, people: 2, tools: ["torque wrench", "spanners"], parts: [{ name: "shim stock", count: 1, of: "head", order: true, cost: "small" }], reading: { label: "Shims together", quantity: "length", from: 0, to: 5, optional: true },
  },
  {
    id: "column-loose", phase: "work", hands: "in", power: "isolated", minutes: 8, uses: ["sweep-known"], effects: [tried("column"), to("column", "snug")],
    text: { title: "Column bolts eased, never out", why: "The foot rises by its shim.", how: ["Strap from the top to a beam or gear just taut: a column tips towards its head.", "Head low and on its block. Ease crosswise, a quarter turn."], caution: "It tips: nobody before it, no finger under its foot.", good: "A shim can be slid in." }, people: 2, tools: ["spanners", "lifting gear"],
  },
  {
    id: "shim-column", phase: "work", hands: "in", power: "isolated", minutes: 26, restores: true, effects: [to("column", "tight"), made("column-plumb")], torques: ["column"],
    text: { title: "Shim the foot on the side that must rise, to torque", why: "The side that is too near the work must rise: on its base that is the foot on that side.", how: ["Shims as station Set says; whole faces, clean.", "Crosswise to torque in three rounds; strap off last."], good: "Shims as listed, none left over." }, people: 2, tools: ["torque wrench", "spanners"], parts: [{ name: "shim stock", count: 1, of: "column", order: true, cost: "small" }], reading: { label: "Shims together", quantity: "length", from: 0, to: 5, optional: true },
  },
];
