import { hasScrew, isCoupled, jointsOf, lifting, motorMass, screwMass, screwTurns } from "../machine/mechanism";
import {
  balanced,
  carriers,
  eased,
  easingText,
  FASTENER_FINDS,
  gravity,
  made,
  memberOf,
  screwOf,
  supportAlone,
  to,
  tried,
} from "./said";
import type { StepContext, StepKind } from "./step-kind";

type Config = StepContext["config"];
const rotating = (c: Config): boolean => c.transmission === "rotating-nut";
const pillow = (c: Config): boolean => c.mechanics.fixedEnd === "pillow-block";
const ballNut = (c: Config): boolean => hasScrew(c) && c.transmission !== "plain-screw";
const hidden = (c: Config): boolean => isCoupled(c) && c.mechanics.couplingHidden;
/** Aligned by the carriage: what is tightened near the fixed end while the rest is snug. */
const opensNut = ({ sheet }: StepContext): boolean => sheet.has("nut-tight") || sheet.has("float-bracket");
const joined = ({ state }: StepContext): boolean =>
  state.joints["nut-bracket"] !== "off" && state.joints["bracket-member"] !== "off";
const slings = (c: Config): readonly string[] =>
  lifting(screwMass(c)).people === 2 ? ["sling", ...(lifting(screwMass(c)).gear ? ["lifting gear"] : [])] : [];
/** The end that the nut’s flange faces, or the other. */
const endOf = (c: Config, flange: boolean): string =>
  (c.mechanics.flangeSide === "fixed") === flange ? "fixed end" : "far end";
const carried = (c: Config): string => {
  if (gravity(c)) return "On its sling, straight along its own line, one hand steadying; nobody under it.";
  return lifting(screwMass(c)).people === 2
    ? "Two people, a sling at its middle; kept straight."
    : "By hand, kept straight.";
};

/** Far end, nut, bracket, screw: off, on, and in line. Common practice, no source. */
// prettier-ignore
export const SCREW_STEPS: readonly StepKind[] = [
  {
    id: "far-ease", phase: "work", hands: "in", power: "isolated", minutes: 4, effects: [tried("far-support"), to("far-support", "snug")],
    text: { title: "Try the far support’s screws, then bring them snug", why: "It finds its place when the screw is aligned.", how: ["Each at torque before it gives; then just loose enough to shift, so that it cannot tip."], good: "A firm push moves it." }, tools: ["torque wrench", "hex keys"], finds: FASTENER_FINDS,
  },
  {
    id: "far-nut-off", phase: "work", hands: "in", power: "isolated", minutes: 3, effects: [to("far-nut", "off")], needs: [{ joint: "far-nut", at: "loose", side: "open" }],
    text: { title: "Nut of the far support off", why: "The bearing comes out over the screw’s end.", how: ["Which face was out; its washer with it."], good: "The thread is whole." }, tools: ["pin or hook spanner"],
  },
  {
    id: "far-open", phase: "work", hands: "in", power: "isolated", minutes: 8, effects: [to("far-support", "off")], needs: [{ joint: "far-support", at: "snug", side: "open" }],
    at: ({ sheet }) => (supportAlone(sheet) ? "near-far" : null),
    text: ({ config, sheet }) => ({ title: "Far support off", why: sheet.has("screw-out") ? "The screw passes it." : "Its bearing comes off with it.", how: ["Mark it to its casting; shims in a bag.", !supportAlone(sheet) ? (gravity(config) ? `The ${screwOf(config)} stays in its sling; the prop stands under it.` : `The ${screwOf(config)} rests on a vee near this end.`) : `The ${memberOf(config)} stands near: its nut carries the end of the ${screwOf(config)}. Nothing of the fixed end is touched.`], caution: "A long screw bends under its own weight.", good: gravity(config) ? "It hangs straight, touching nothing." : "The end rests, it does not hang." }), consumables: ["bags and marker"], tools: ({ config }) => ["hex keys", ...(gravity(config) ? [] : ["wooden vees"])],
  },
  {
    id: "far-bearing-out", phase: "work", hands: "in", power: "isolated", minutes: 8, effects: [to("far-bearing", "off")],
    text: { title: "Support bearing off", why: "It is worn, or in the way.", how: ["Circlip off, eye protection on.", "Drawn by its inner ring; turn it with a fingertip before it is thrown away."], good: "Journal bright, no blue." }, tools: ["circlip pliers", "bearing puller", "eye protection"],
    finds: [{ id: "rough", label: "rough or pitted" }, { id: "dry", label: "dry" }, { id: "smooth", label: "smooth", asks: true, say: "Smooth: it was not this bearing. Say why it is renewed all the same, or put it back." }],
  },
  {
    id: "lube-off", phase: "work", hands: "in", power: "isolated", minutes: 3, effects: [to("lube-line", "off")],
    text: { title: "Lubrication line off the nut", why: "The nut goes no further than the line follows.", how: ["Catch the oil, plug both ends."], good: "No chip can get in." }, tools: ["spanners"], consumables: ["line plugs", "cloths"],
  },
  {
    id: "nut-ease", phase: "work", hands: "in", power: "isolated", minutes: 5,
    effects: ({ config, state }) => eased(config, state, [tried("nut-bracket"), to("nut-bracket", "snug")]),
    text: ({ config, state }) => ({ title: "Try the nut’s screws at torque, then bring them snug", why: "Loose there is lost motion by itself.", how: ["Each tried before it gives.", ...easingText(config, state)], good: "You know which were tight." }), tools: ["torque wrench", "hex keys"], finds: FASTENER_FINDS,
  },
  {
    id: "nut-parted", phase: "work", hands: "in", power: "isolated", minutes: 8, effects: [to("nut-bracket", "off")],
    text: ({ config, sheet }) => ({ title: "Part the nut from its bracket", why: sheet.has("grease-nut") ? "Its nipple is behind the flange." : "It goes out with the screw.", how: ["Which way its flange faces, where its fitting sits.", "Screws out crosswise. A matched nut sticks in its bore: a screw a few threads into its tapped holes pushes it.", gravity(config) ? "The member stands on its block; turn the nut along the screw by hand, out of its bore. It is never jogged out." : "Turn it along the screw by hand, out of its bore."], caution: ballNut(config) ? "A ball nut that runs off its thread loses its balls: tape round the thread." : "Fingers out of the bore.", good: "The nut is free and held on its thread." }), tools: ["hex keys", "tape or a sleeve for the nut"], photo: "flange side and fitting",
  },
  {
    id: "grease-nut", phase: "work", hands: "in", power: "isolated", minutes: 6, needs: [{ joint: "nut-bracket", at: "off", side: "open" }], effects: [made("nut-greased")],
    text: { title: "Grease the nut: one to two strokes", why: "That is what the job is for.", how: ["Nipple wiped first; the lubricant of this point, never mixed.", "One stroke, turn the nut one turn along the screw by hand, one more.", "Wipe what shows."], good: "Fresh grease just shows at the wiper." }, tools: ["grease gun of this lubricant"], consumables: ["grease of this point", "cloths"],
    finds: [{ id: "right", label: "grease as it should be" }, { id: "dry", label: "dry" }, { id: "dirty", label: "dirty: chips or black", say: "Look at both wipers: that is where it came in." }],
  },
  {
    id: "bracket-loose", phase: "work", hands: "in", power: "isolated", minutes: 5,
    effects: ({ config, state }) => eased(config, state, [tried("bracket-member"), to("bracket-member", "snug")]),
    text: ({ config, state }) => ({ title: "Try the bracket screws, then bring them snug", why: "The bracket finds its place only then.", how: ["Each at torque before it gives.", "Just loose enough to shift by a hair, all of them together.", ...easingText(config, state)], good: "The bracket moves by a hair, it cannot tip." }), tools: ["torque wrench", "hex keys"],
    finds: [{ id: "tight", label: "all tight" }, { id: "loose", label: "one or more loose", offersStop: true, say: "A loose bracket is lost motion by itself. Tighten it in line and measure again first." }],
  },
  {
    id: "bracket-off", phase: "work", hands: "in", power: "isolated", minutes: 8, needs: [{ joint: "nut-bracket", at: "off", side: "open" }], effects: [tried("bracket-member"), to("bracket-member", "off")],
    text: { title: "Nut bracket off", why: "The nut’s flange does not pass the casting: the bracket goes first.", how: ["Pins and shims marked with their places; screws by place.", "Supported while the last screw comes out."], good: "The screw is free along its way out." }, consumables: ["bags and marker"], tools: ["hex keys", "torque wrench"],
  },
  {
    id: "screw-out", phase: "work", hands: "in", power: "isolated", minutes: ({ config }) => (screwMass(config) > 12 ? 26 : 10),
    needs: ({ config }) => (screwTurns(config) && !config.mechanics.flangePasses ? [{ joint: "bracket-member", at: "off", side: "open" }] : []),
    effects: [to("screw", "off")],
    text: ({ config }) => ({
      title: !screwTurns(config) ? "Screw out of its clamps" : config.mechanics.flangePasses ? `Draw the screw by the ${endOf(config, true)}: the side its nut’s flange faces` : `Draw the screw by the ${endOf(config, false)}, tilted past the casting`, why: screwTurns(config) ? "It passes no other way." : "Nut and screw go together.",
      how: [`It weighs about ${Math.max(1, Math.round(screwMass(config)))} kg. ${carried(config)}`, "Never lifted by the nut.", "On vees at a quarter from each end."], caution: "Long, oily and straight: gloves, clear way, no knock.", good: "It comes without scraping.",
    }),
    people: ({ config }) => carriers(screwMass(config)), tools: ({ config }) => [...slings(config), "wooden vees"], photo: "the screw’s side and marks",
  },
  {
    id: "new-screw", phase: "work", hands: "in", power: "isolated", minutes: 13, needs: [{ joint: "screw", at: "off", side: "open" }], effects: [made("screw-compared")],
    text: ({ config }) => ({ title: `New ${screwOf(config)} beside the old`, why: "A wrong lead or fitting is seen now, or after a day.", how: ["Lead, hand, length, journals, flange and fitting side.", "Journals measured; preservative off the thread; first fill of grease by its maker."], good: "Everything as the old one." }),
    parts: ({ config }) => [{ name: config.transmission === "plain-screw" ? "lead screw with nut" : "ball screw with nut", count: 1, of: "screw", order: true, cost: "screw" }], tools: ["micrometer", "steel rule"],
  },
  {
    id: "send-screw", phase: "work", hands: "in", power: "isolated", minutes: 30, needs: [{ joint: "screw", at: "off", side: "open" }], effects: [made("nut-serviced")],
    text: { title: "Screw and nut to a screw shop, together", why: "A ground or preloaded nut’s balls are sized for its preload: it is not opened here.", how: ["Packed straight, the nut taped on its thread.", "Say what was measured and what was found; ask for a drag figure.", "The machine stands for days: close it, lock on, label, and say until when."], good: "It comes back with a drag figure." }, consumables: ["packing"],
  },
  {
    id: "nut-from-screw", phase: "work", hands: "in", power: "isolated", minutes: 13, effects: [to("balls", "off")],
    text: { title: "Nut off its screw, onto a sleeve", why: "The sleeve keeps the balls in.", how: ["Sleeve a little under root diameter, tight to the thread’s end.", "Turn the nut over it; do not let go of the sleeve."], caution: "Over a tray: count what falls.", good: "No ball has fallen." }, tools: ["sleeve", "tray"], finds: [{ id: "clean", label: "clean grease" }, { id: "dirty", label: "chips or black grease", say: "Look at both wipers: that is where it came in." }, { id: "missing", label: "balls missing", say: "Count them against the maker’s number; all of one size, never mixed." }],
  },
  {
    id: "service-nut", phase: "work", hands: "in", power: "isolated", minutes: 45, needs: [{ joint: "balls", at: "off", side: "open" }], effects: [made("nut-serviced")],
    text: { title: "Rebuild the nut, ball by ball", why: "For low-cost rolled screws only.", how: ["Count each circuit’s balls and write it down.", "All new balls of one size; grease holds them in.", "Returns seated before the wiper goes on."], good: "No catch over its whole thread.", ifNot: "A catch each turn: a return is not seated." },
    consumables: ["solvent", "grease of the maker"], parts: [{ name: "balls, one size, one set", count: 1, of: "balls", order: true, cost: "small" }, { name: "wipers", count: 2, of: "balls", order: true, cost: "small" }],
  },
  {
    id: "nut-to-screw", phase: "work", hands: "in", power: "isolated", minutes: 10, restores: true, effects: [to("balls", "tight")],
    text: { title: "Nut back on its screw", why: "Over the sleeve, as it came.", how: ["Sleeve tight to the thread, turn gently; never force."], good: "It turns by two fingers." }, tools: ["sleeve"],
  },
  {
    id: "flush-in-place", phase: "work", hands: "in", power: "isolated", minutes: 20, fits: ballNut, needs: ({ config }) => [{ joint: "covers", at: "off", side: "open" }, ...(config.mechanics.tableOverNut ? [{ joint: "table", at: "off", side: "open" } as const] : [])], effects: [made("nut-serviced")],
    text: { title: "Flush the nut in place", why: "Nothing is taken apart: it takes the dirt, not the wear.", how: ["Cloth under it. Solvent in at the lubrication hole, a little at a time; the screw wiped beside it.", "Blow gently, a cloth before the other wiper; again until it comes clean.", "Grease or oil at once, the maker’s, two strokes.", "Feel it again once it moves."], caution: "Solvent and air: gloves, eye protection, nothing hot near.", good: "Runs without a catch." }, tools: ["eye protection", "gloves"], consumables: ["solvent", "grease of the maker", "cloths"],
  },
  {
    id: "screw-in", phase: "work", hands: "in", power: "isolated", restores: true, minutes: ({ config }) => (screwMass(config) > 12 ? 29 : 12), effects: [to("screw", "tight")],
    text: ({ config }) => ({ title: `${screwOf(config) === "screw" ? "Screw" : "Lead screw"} in, the way it came out`, why: "As it came, so it goes.", how: [carried(config), "Tape over keyway and thread end where a wiper passes.", jointsOf(config).includes("lube-line") ? "Fitting turned to the line; the line on before it is home where it cannot be reached later." : "Nut turned the way it was.", "Supported until both ends are carried."], good: "It lies in its seats without force." }), people: ({ config }) => carriers(screwMass(config)), tools: ({ config }) => [...slings(config), "wooden vees"],
  },
  {
    id: "bracket-on", phase: "work", hands: "in", power: "isolated", wanted: (open) => open("bracket-member") === "off", minutes: 8, restores: true, effects: [to("bracket-member", "snug")], needs: [{ joint: "bracket-member", at: "off", side: "open" }],
    text: { title: "Nut bracket on, snug", why: "Its pins place it; it is tightened in line.", how: ["Faces clean, pins and shims each in its place.", "Screws by hand, then a hair."], good: "It sits flush." }, tools: ["hex keys"],
  },
  {
    id: "nut-joined", phase: "work", hands: "in", power: "isolated", wanted: (open) => open("nut-bracket") === "off", minutes: 8, restores: true, effects: [to("nut-bracket", "snug")], needs: [{ joint: "nut-bracket", at: "off", side: "open" }],
    text: { title: "Nut to its bracket, snug", why: "It is set in line afterwards.", how: ["Fitting towards the line.", "The nut is turned along the screw by hand until its flange meets the bracket; screws in by their fingers, then a hair."], good: "The flange lies flat without a gap." }, tools: ["hex keys"],
  },
  {
    id: "lube-on", phase: "work", hands: "in", power: "isolated", minutes: 6, restores: true, effects: [to("lube-line", "tight")], needs: [{ joint: "nut-bracket", at: "snug", side: "shut" }],
    text: { title: "Lubrication line on and primed", why: "A nut runs dry in an hour.", how: ["Both ends clean.", "Prime until it shows, about four strokes."], good: "Fresh lubricant at the wipers." }, tools: ["spanners"],
  },
  {
    id: "far-bearing-in", phase: "work", hands: "in", power: "isolated", minutes: 8, restores: true, effects: [to("far-bearing", "tight")],
    text: (c) => ({ title: c.kinds.has("support-bearing") || c.options.farEndToo ? "New support bearing on" : "Support bearing on again", why: "It guides the screw, free to slide.", how: ["On the journal by its inner ring.", "Circlip with its sharp side out."], good: "Slides in its housing by hand." }),
    parts: (c) => (c.kinds.has("support-bearing") || c.options.farEndToo ? [{ name: "support bearing", count: 1, of: "far-bearing", order: true, cost: "small" }, { name: "circlip", count: 1, of: "far-bearing", order: true, cost: "small" }] : []), tools: ["sleeve", "circlip pliers", "eye protection"],
  },
  {
    id: "far-on", phase: "work", hands: "in", power: "isolated", wanted: (open) => open("far-support") === "off", minutes: 6, restores: true, effects: [to("far-support", "snug")], needs: [{ joint: "far-support", at: "off", side: "open" }],
    text: { title: "Far support on, snug", why: "It finds its place with the member near.", how: ["Faces clean, marks to marks, shims in their places.", "Screws by hand, then a hair."], good: "A firm push moves it." }, tools: ["hex keys"],
  },
  {
    id: "light-snug", phase: "work", hands: "in", power: "isolated", minutes: 5, fits: (c) => screwTurns(c) && pillow(c),
    effects: ({ config, state }) => eased(config, state, [tried("housing"), tried("motor"), to("housing", "snug"), to("motor", "snug")]),
    text: ({ config, state }) => ({ title: "Motor and fixed block snug together", why: "On a light screw the coupling stays on: both find their place as one.", how: ["Each screw tried first.", "Then just loose enough to shift by a hair.", ...easingText(config, state)], good: "Both move together under a push." }), tools: ["hex keys"], finds: FASTENER_FINDS,
  },
  {
    id: "light-tight", phase: "work", hands: "in", power: "isolated", minutes: 10, restores: true, fits: (c) => screwTurns(c) && pillow(c), wanted: (open) => open("motor") === "snug",
    effects: [to("housing", "tight"), to("motor", "tight"), made("screw-aligned")], torques: ["housing", "motor"], at: "near-fixed",
    text: ({ config }) => ({ title: `Fixed block, then motor, to torque: the ${memberOf(config)} near them`, why: "The nut shows block and motor their place.", how: ["Room left for the key; block first, crosswise, then the motor.", "The coupling stays on: turn it a turn by hand between."], good: "The coupling turns without a high spot.", ifNot: "Loosen both, nearer, and again." }), tools: ["torque wrench", "paint marker"],
  },
  {
    id: "housing-loosen", phase: "work", hands: "in", power: "isolated", minutes: 5, fits: screwTurns,
    effects: ({ config, state }) => eased(config, state, [tried("housing"), to("housing", "snug")]),
    text: ({ config, state }) => ({ title: "Try the housing screws, then bring them snug", why: "The fixed end finds its place where the nut is.", how: ["Each at torque before it gives.", ...easingText(config, state)], good: "A firm push moves it." }), tools: ["torque wrench", "hex keys"], finds: FASTENER_FINDS,
  },
  {
    id: "nut-tight", phase: "work", hands: "in", power: "isolated", minutes: 10, restores: true, effects: [to("nut-bracket", "tight")], torques: ["nut-bracket"], needs: ({ config }) => (config.mechanics.tableOverNut ? [] : [{ joint: "housing", at: "tight", side: "shut" }]), at: ({ config }) => (config.mechanics.tableOverNut ? null : "near-fixed"),
    text: ({ config }) => config.mechanics.tableOverNut ? { title: "Nut’s screws to torque, in its seat", why: "With the table off nothing else can place it.", how: ["Nut square in its seat, as its marks show.", "Crosswise; a turn of the screw by hand between."], good: "The screw turns as free as before.", ifNot: "Loosen, turn the screw once each way, and again." } : ({ title: `Nut screws to torque, the ${memberOf(config)} near the fixed end`, why: "There the fixed end says where the nut has to be.", how: ["Room left for the key.", "Crosswise in three rounds; a turn of the screw by hand between, where it can be turned.", "Mark each with paint."], good: "No change of feel while tightening.", ifNot: "Loosen, nearer to the end, and again." }), tools: ["torque wrench", "paint marker"],
  },
  {
    id: "float-bracket", phase: "work", hands: "in", power: "isolated", minutes: 12, restores: true, effects: [to("bracket-member", "tight"), made("screw-aligned")], torques: ["bracket-member"], at: ({ config }) => (config.mechanics.tableOverNut ? null : "near-fixed"),
    text: ({ config, options }) => config.mechanics.tableOverNut ? { title: "Bracket’s screws to torque, by its marks", why: "With the table off nothing else can place it.", how: ["Marks to marks, crosswise; a turn of the screw by hand between."], good: "The screw turns as free as before." } : ({ title: `Bracket screws to torque, the ${memberOf(config)} near the fixed end`, why: "Tightened elsewhere it binds towards one end.", how: ["Cross pattern, three rounds.", ...(options.align === "crest" ? ["Crest run in two planes at station Set afterwards: within its limit before you go on."] : []), "Mark each with paint."], good: "The screw turns as freely as before.", ifNot: "Loosen, nearer to the end, and again." }), tools: ["torque wrench", "paint marker"],
  },
  {
    id: "housing-tight", phase: "work", hands: "in", power: "isolated", minutes: 10, restores: true, fits: (c) => screwTurns(c) && c.mechanics.fixedEnd !== "pinned", wanted: (open) => open("motor") !== "snug",
    effects: [to("housing", "tight"), made("screw-aligned")], torques: ["housing"],
    needs: [{ joint: "housing", at: "snug", side: "open" }],
    at: (c) => (joined(c) && !opensNut(c) ? "near-fixed" : null),
    text: (c) => joined(c) && !opensNut(c)
      ? { title: `Fixed end to torque, the ${memberOf(c.config)} near it`, why: "The nut shows the fixed end its place.", how: ["Crosswise in three rounds, room left for the key.", ...(c.options.align === "crest" ? ["Crest run in two planes at station Set afterwards: shims only lift a housing off its casting."] : []), "Mark each with paint."], good: "No change of feel while tightening.", ifNot: "Loosen, nearer, and again." }
      : { title: "Fixed end to torque, by its marks", why: "It is the reference: nut and support follow it.", how: ["Marks to marks, crosswise in three rounds.", "Mark each with paint."], good: "Flush all round." },
    tools: ["torque wrench", "paint marker"],
  },
  {
    id: "table-on", phase: "work", hands: "in", power: "isolated", minutes: 20, people: 2, restores: true, effects: [to("table", "tight")],
    text: { title: "Table on its ways again", why: "It stood before the nut.", how: ["Ways wiped and oiled; slid on by two people.", "Gib in by its mark, small end as it was, retainer on."], caution: "Heavy and all edges: flat hands.", good: "It slides as before." }, tools: ["hex keys", "screwdriver for the adjuster"],
  },
  {
    id: "far-shut", phase: "work", hands: "in", power: "isolated", minutes: 10, restores: true, effects: [to("far-support", "tight"), made("far-aligned")], torques: ["far-support"], at: "near-far", needs: [{ joint: "table", at: "tight", side: "shut" }, { joint: "nut-bracket", at: "tight", side: "shut" }, { joint: "bracket-member", at: "tight", side: "shut" }, { joint: "housing", at: "tight", side: "shut" }],
    text: ({ config }) => ({ title: `Far support to torque, the ${memberOf(config)} near it`, why: "Tightened last and there, it is in line with nut and ways.", how: ["Room left for the key; crosswise to torque.", "Its ring must stay free to slide: it supports, it does not hold.", "Mark each with paint."], good: "Turns as free at both ends.", ifNot: "Tight towards this end: loosen and again." }), tools: ["torque wrench", "paint marker"],
  },
  {
    id: "hub-on", phase: "work", hands: "in", power: "isolated", wanted: (open) => open("hub-screw") === "off", minutes: 4, restores: true, fits: isCoupled, effects: [to("hub-screw", "snug")], needs: [{ joint: "hub-screw", at: "off", side: "open" }],
    text: { title: "Hub on the screw, not yet clamped", why: "It goes on before the motor hides it.", how: ["To the depth that was noted, on its key or flat.", "No oil in a clamp hub."], good: "It slides by hand." }, tools: ["hex keys"],
  },
  {
    id: "renew-coupling", phase: "work", hands: "in", power: "isolated", minutes: 15, fits: isCoupled, needs: [{ joint: "motor", at: "off", side: "open" }, { joint: "hub-screw", at: "off", side: "open" }], effects: [tried("hub-motor"), to("hub-motor", "off"), to("hub-motor", "tight"), made("coupling-renewed")], torques: ["hub-motor"],
    text: { title: "Change or reset the coupling", why: "It slips, springs or runs out.", how: ["Motor’s hub off on the bench, its screw tried first.", "Measure run-out of both shafts before the new one hides it.", "New hub on the motor’s shaft to the depth of the old, to torque; no oil in clamp hubs; clear of the brake."], good: "Shaft run-out below 0.02 mm.", ifNot: "A bent shaft: stop and say so; a coupling does not cure it." },
    parts: [{ name: "coupling", count: 1, of: "hub-screw", order: true, cost: "small" }], reading: { label: "Shaft run-out", quantity: "deviation", from: 0, to: 0.02, optional: true }, tools: ["indicator on a magnetic base", "torque wrench", "hex keys"],
  },
  {
    id: "motor-on", phase: "work", hands: "in", power: "isolated", minutes: 13, restores: true, fits: isCoupled, effects: [to("motor", "tight")], torques: ["motor"], needs: [{ joint: "motor", at: "off", side: "open" }], wanted: (open) => open("motor") === "off", at: ({ config }) => (hidden(config) ? "opening" : null),
    text: ({ config }) => ({ title: "Motor on", why: "Last in the tightening order.", how: ["Faces clean, marks to marks; insert or disc pack free endwise.", `${lifting(motorMass(config).kg).people === 2 ? "Two people, on its strap. " : ""}Screws by hand, then crosswise in three rounds.`, "Plugs in and locked."], good: config.brake && config.mechanics.brakeAt === "motor" ? "It sits flush. The brake holds from when the coupling is shut." : "It sits flush." }), people: ({ config }) => carriers(motorMass(config).kg), tools: ({ config }) => ["torque wrench", ...(lifting(motorMass(config).kg).people === 2 ? ["lifting strap"] : [])],
  },
  {
    id: "coupling-shut", phase: "work", hands: "in", power: "isolated", minutes: 10, restores: true, fits: isCoupled, effects: [to("hub-screw", "tight"), made("coupling-square")], torques: ["hub-screw"], at: ({ config }) => (hidden(config) ? "opening" : null),
    text: ({ config }) => ({ title: "Coupling square, at its gap, clear of the brake, to torque", why: "Eccentric or jammed it runs once per turn for ever.", how: ["Gap by feeler as noted; nothing pushes endwise.", config.coupling === "insert" ? "The insert with a little endwise play." : "No twist left in the flexible part.", "In three rounds where there is more than one screw; both hubs marked to their shafts."], good: "Gap alike all round.", ifNot: "Loosen and set it again: it does not run itself in." }), tools: ["torque wrench", "feeler gauges", "paint marker"], photo: "the coupling with its marks",
  },
  {
    id: "belt-new", phase: "work", hands: "in", power: "isolated", minutes: 5, needs: [{ joint: "belt", at: "off", side: "open" }], effects: [made("belt-renewed")],
    text: { title: "New belt beside the old", why: "A tooth more or another profile is seen now.", how: ["Profile, width, teeth counted.", "Pulleys: look for worn tooth flanks and a loose grub screw on the flat."], good: "Alike, pulleys sound and tight." }, parts: [{ name: "drive belt", count: 1, of: "belt", order: true, cost: "small" }], finds: [{ id: "sound", label: "pulleys sound" }, { id: "worn", label: "a pulley worn", say: "A new belt on a worn pulley lasts weeks: renew both." }],
  },
  {
    id: "belt-on", phase: "work", hands: "in", power: "isolated", minutes: 10, restores: true, effects: [to("belt", "tight")], torques: ["belt"],
    text: { title: "Belt on, tensioned", why: "Slack is lost motion; too tight ruins the bearings.", how: ["Marks to marks.", "By its frequency or the maker’s deflection; plate tight, then measured again, at three places of a turn."], good: "Within the maker’s range after tightening." }, tools: ["belt tension gauge or phone microphone", "torque wrench"], reading: { label: "Belt frequency, Hz", quantity: "number", from: 10, to: 500, optional: true },
  },
  {
    id: "bumper-on", phase: "work", hands: "in", power: "isolated", minutes: 3, restores: true, effects: [to("bumper", "tight")], torques: ["bumper"],
    text: { title: "Bumper on", why: "It stops the member before the casting does.", how: ["Same side, same spacer."], good: "It sits tight." }, tools: ["torque wrench"],
  },
  {
    id: "unhook-balance", phase: "work", hands: "in", power: "isolated", minutes: 6, fits: balanced, effects: [to("balance-link", "off")],
    text: ({ config }) => ({ title: config.gasSpring ? "Gas spring off its eye" : "Chain off the head", why: "Pinned, it lets the member go one way only: it has to travel both.", how: [config.gasSpring ? "Pinned and without load: draw the pin of its eye." : "The weight pinned and propped, the chain slack: its link off, tied up where it cannot leave the wheels."], good: "Nothing pulls at the member." }), tools: ["spanners"],
  },
  {
    id: "hook-balance", phase: "work", hands: "in", power: "isolated", minutes: 6, fits: balanced, restores: true, effects: [to("balance-link", "tight")], at: "opening",
    text: ({ config }) => ({ title: config.gasSpring ? "Gas spring on its eye" : "Chain on again", why: "The member stands where it was pinned.", how: [config.gasSpring ? "Pin of the eye in, its clip on." : "Link in, its clip on, chain in its wheels."], good: "It moves by hand, no twist." }), tools: ["spanners"],
  },
  {
    id: "release-balance", phase: "work", hands: "in", power: "isolated", minutes: 6, fits: balanced, restores: true, effects: [{ kind: "balance", to: "acts" }], needs: ({ config }) => (isCoupled(config) ? [{ joint: "hub-screw", at: "tight", side: "shut" }] : [{ joint: "belt", at: "tight", side: "shut" }]),
    text: ({ config }) => config.gasSpring ? { title: "Free the gas spring", why: "The drive was sized with it.", how: ["Brake or strap holds; draw the pin slowly, stand beside it."], good: "The member has not moved." } : { title: "Jack the counterweight off its pin, pin out", why: "The drive was sized with it.", how: ["Brake or strap holds the member.", "Jack until the pin is free, pin out, let the chain take its load slowly; props out and counted."], caution: "Nobody under the weight.", good: "The chain carries, nothing rubs, the member has not moved." }, tools: ["jack"],
  },
  // Rotating nut: the screw stands still, the nut runs in bearings of its own.
  {
    id: "nut-flange-off", phase: "work", hands: "in", power: "isolated", minutes: 12, fits: rotating, effects: ({ config, state }) => eased(config, state, [tried("nut-flange"), to("nut-flange", "loose"), to("nut-flange", "off")]), needs: ({ config }) => (gravity(config) ? [] : []),
    text: ({ config, state }) => ({ title: "Nut housing off its flange", why: "The nut bearing is in it.", how: ["Run-out of the nut’s pulley noted first, by indicator: it is set true again by it.", "Each screw tried at torque before it gives; the housing drawn along the screw, held on its thread.", ...easingText(config, state)], caution: "A ball nut that runs off its thread loses its balls.", good: "It stands free on its screw." }), tools: ["torque wrench", "hex keys", "indicator on a magnetic base", "tape or a sleeve for the nut"], finds: FASTENER_FINDS,
  },
  {
    id: "nut-flange-on", phase: "work", hands: "in", power: "isolated", minutes: 14, fits: rotating, restores: true, effects: [to("nut-flange", "tight"), made("flange-true")], torques: ["nut-flange"],
    text: { title: "Nut housing on, indicated true, to torque", why: "Off once, it is true only by indicator.", how: ["Faces clean; screws by hand, then snug.", "Indicator on the pulley’s rim, turn the nut by hand: run-out as noted; tap, look again.", "Crosswise in three rounds, looking between."], good: "Run-out below 0.02 mm after the last round." }, tools: ["torque wrench", "indicator on a magnetic base", "soft hammer"], reading: { label: "Run-out of the nut", quantity: "deviation", from: 0, to: 0.02 },
  },
  {
    id: "clamps-off", phase: "work", hands: "in", power: "isolated", minutes: 10, fits: rotating, effects: [tried("screw-clamps"), to("screw-clamps", "loose"), to("screw-clamps", "off")],
    text: { title: "Screw clamps at both ends off", why: "The screw comes out of them.", how: ["Each tried at torque first; the screw carried at two places before the second clamp opens."], good: "The screw lies on its supports." }, tools: ["torque wrench", "hex keys", "wooden vees"], finds: FASTENER_FINDS,
  },
  {
    id: "clamps-on", phase: "work", hands: "in", power: "isolated", minutes: 10, fits: rotating, restores: true, effects: [to("screw-clamps", "tight")], torques: ["screw-clamps"],
    text: { title: "Screw clamps on, both ends, to torque", why: "It stands still: it must not turn in them.", how: ["Both ends snug first, then crosswise in three rounds, one end and the other in turn.", "Mark screw and clamps with paint."], good: "The marks stay together." }, tools: ["torque wrench", "paint marker"],
  },
];
