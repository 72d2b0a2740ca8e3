import { isGravityAxis, memberName } from "../axis";
import type { StepTemplate } from "./types";

/** Nut, screw, guideway, home and head. */
export const SCREW_STEPS: readonly StepTemplate[] = [
  {
    id: "lube-off", scope: "axis", phase: "work", opens: "lube-off", needs: ["covers-off"], minutes: 3, reachIn: true,
    words: { title: "Lubrication line off the nut", why: "The screw cannot be drawn further than the line follows.", how: ["Catch the oil, plug both ends."], good: "No chip can get in." }, consumables: ["line plugs", "cloths"],
  },
  {
    id: "lube-on", scope: "axis", phase: "work", closes: "lube-off", needs: ["covers-off"], minutes: 6, reachIn: true, after: ["nut-joined"],
    words: { title: "Lubrication line on and primed", why: "A new nut runs dry in an hour.", how: ["Fitting towards the line.", "Prime until it shows, about four strokes."], good: "Fresh lubricant at the wipers." },
  },
  {
    id: "bracket-loose", scope: "axis", phase: "work", opens: "bracket-loose", needs: ["covers-off"], minutes: 6, reachIn: true,
    words: { title: "Try, then loosen the nut bracket screws", why: "The bracket finds its place only loose.", how: ["Torque wrench on each before it is loosened.", "Then loosen evenly, crosswise."], good: "The bracket moves by a hair." }, torque: "housing", tools: ["torque wrench", "hex keys"],
    finds: [{ id: "tight", words: "all tight" }, { id: "loose", words: "one or more loose", offersStop: true, say: "A loose bracket is lost motion by itself. Tighten it in line and retest first." }],
  },
  {
    id: "float-bracket", scope: "axis", phase: "work", closes: "bracket-loose", does: "screw-aligned", needs: ["covers-off"], minutes: 16, reachIn: true, after: ["nut-joined", "set-preload", "housing-tight", "far-shut"],
    words: (axis, options) => ({
      title: options.align === "crest" ? "Set the bracket by the crest run, then tighten" : "Float the bracket, tighten near each end", why: "Tightened out of line, the axis binds towards one end.",
      how: [
        isGravityAxis(axis) ? `${memberName(axis)} on lifting gear rated for it, block under it all the while; move by the screw by hand.` : "Bracket screws just loose enough to move; turn the screw by hand.",
        "Run to one end, tighten two screws diagonally; to the other end, tighten the other two.",
        "Again in the same cross pattern to torque.",
        options.align === "crest" ? "Crest run in two planes at station Set: within its limit before you go on." : "Turn by hand over the whole travel: no rise at the ends.",
      ],
      good: "The screw turns alike at both ends.", ifNot: "Tight at one end: loosen that end’s support and tighten it with the member there.",
    }),
    torque: "housing", tools: ["torque wrench"],
  },
  {
    id: "nut-parted", scope: "axis", phase: "work", opens: "nut-parted", needs: ["bracket-loose", "lube-off"], minutes: 10, reachIn: true,
    words: { title: "Part the nut from its bracket", why: "It stays on the screw.", how: ["Note which way its flange faces and where its fitting sits.", "Screws out crosswise; the nut must not run down the screw."], caution: "A ball nut that runs off its thread loses its balls.", good: "The nut is held on its thread." }, photo: "flange side and fitting", tools: ["hex keys", "tape or a sleeve for the nut"],
  },
  {
    id: "nut-joined", scope: "axis", phase: "work", closes: "nut-parted", needs: ["bracket-loose"], minutes: 10, reachIn: true, after: ["screw-in"],
    words: { title: "Nut to its bracket, screws loose", why: "It is set in line afterwards.", how: ["Fitting towards the line.", "Height set by turning the screw by hand, never by force."], good: "The flange lies flat without a gap." },
  },
  {
    id: "screw-out", scope: "axis", phase: "work", opens: "screw-out", needs: ["nut-off", "housing-off", "@parted", "@far", "motor-off"], minutes: 26, people: 2, reachIn: true,
    words: { title: "Draw the screw, to the side the nut’s flange faces", why: "It does not pass the other way.", how: ["Two people, a sling at its middle.", "Never lift by the nut; keep it straight.", "Lay it on vees at a quarter from each end."], caution: "Heavy, long, oily: gloves, clear way.", good: "It comes out without scraping." }, tools: ["sling", "wooden vees", "lifting gear"], photo: "the screw’s side and marks",
  },
  {
    id: "screw-in", scope: "axis", phase: "work", closes: "screw-out", needs: ["nut-off", "housing-off", "@parted", "@far", "motor-off"], minutes: 29, people: 2, reachIn: true,
    words: { title: "Screw in, from the side it came out", why: "As it came, so it goes.", how: ["Protect the wipers over the keyway and thread end.", "Fitting turned to the line.", "Support it until both ends are carried."], caution: "Heavy: two people and a sling.", good: "It lies in both seats without force." }, tools: ["sling", "lifting gear"],
  },
  {
    id: "new-screw", scope: "axis", phase: "work", needs: ["screw-out"], minutes: 13, does: "screw-checked",
    words: { title: "Check the new screw against the old", why: "A wrong lead or fitting is seen now or after a day.", how: ["Lead, hand, length, journals, fitting side.", "Journals measured, thread clean of preservative, first fill of grease."], good: "Everything as the old one." }, parts: [{ name: "ball screw with nut", count: 1, order: true, cost: "screw" }], tools: ["micrometer", "steel rule"],
  },
  {
    id: "nut-from-screw", scope: "axis", phase: "work", opens: "nut-apart", needs: ["screw-out"], minutes: 13,
    words: { title: "Nut off its screw, onto a sleeve", why: "The sleeve keeps the balls in.", how: ["Sleeve a little under root diameter, tight to the thread’s end.", "Turn the nut over it; do not let go of the sleeve."], caution: "Over a tray: count what falls.", good: "No ball has fallen." }, tools: ["sleeve", "tray"], finds: [{ id: "clean", words: "clean grease" }, { id: "dirty", words: "chips or black grease", say: "Look at both wipers: that is where it came in." }, { id: "missing", words: "balls missing", say: "Count them against the maker’s number; all of one size, never mixed." }],
  },
  {
    id: "service-nut", scope: "axis", phase: "work", does: "nut-serviced", needs: ["nut-apart"], minutes: 39,
    words: (axis, options) => options.nutService === "send-out" || (axis.screw.make === "ground" && options.nutService === "rebuild")
      ? { title: "Send screw and nut to a screw shop", why: "A ground, preloaded nut’s balls are sized for the preload.", how: ["Screw and nut together, packed straight.", "Say what was measured and what was found."], good: "It comes back with a drag figure." }
      : options.nutService === "flush"
        ? { title: "Flush the nut", why: "The lesser measure: it takes the dirt, not the wear.", how: ["Solvent through it both ways, turned on its sleeve; blow gently, cloth before it.", "Grease it at once."], caution: "Solvent: air and gloves, nothing hot near.", good: "Runs without a catch." }
        : { title: "Rebuild the nut, ball by ball", why: "For low-cost rolled screws only.", how: ["Note each circuit’s count.", "All new balls of one size; grease holds them in.", "Returns seated before the wiper goes on."], good: "No catch over its whole thread.", ifNot: "A catch each turn: a return is not seated." },
    consumables: ["solvent", "grease of the maker"], parts: [{ name: "wipers", count: 2, order: true, cost: "small" }],
  },
  {
    id: "nut-to-screw", scope: "axis", phase: "work", closes: "nut-apart", needs: ["screw-out"], minutes: 13, after: ["service-nut"],
    words: { title: "Nut back on its screw", why: "Over the sleeve, as it came.", how: ["Sleeve tight to the thread, turn gently; never force."], good: "It turns by two fingers." }, tools: ["sleeve"],
  },
  {
    id: "loosen-antibacklash", scope: "axis", phase: "work", opens: "antibacklash-loose", needs: ["covers-off"], minutes: 3, reachIn: true,
    words: { title: "Loosen the anti-backlash nut", why: "It is set from loose.", how: ["Jam nut back, spring or adjuster free.", "Clean the thread."], good: "The axis moves freely by hand." },
  },
  {
    id: "set-antibacklash", scope: "axis", phase: "work", closes: "antibacklash-loose", does: "antibacklash-set", needs: ["covers-off"], minutes: 6, reachIn: true,
    words: { title: "Set the anti-backlash nut", why: "Until it just touches: tighter only eats torque.", how: ["Turn in until play just goes, by hand over the whole travel.", "Lock it; the jam nut must not lift the screw."], good: "No play, no catch, one hand turns it." },
  },
  {
    id: "loosen-gib", scope: "axis", phase: "work", opens: "gib-loose", needs: ["covers-off"], minutes: 6, reachIn: true,
    words: { title: "Back the gib off", why: "The curve begins clearly loose.", how: ["Note turns and the place of the adjuster first.", "Loosen the far screw before the near one."], good: "The member rocks a little." }, tools: ["screwdriver for the adjuster"],
  },
  {
    id: "set-gib", scope: "axis", phase: "work", closes: "gib-loose", does: "gib-set", needs: ["covers-off", "@front"], minutes: 26, reachIn: true,
    words: (axis, options) => ({
      title: "Set the gib", why: "Past the knee of its friction there is hardly any stiffness to gain, and wear climbs.",
      how: isGravityAxis(axis)
        ? ["This axis is never pushed by hand: turn in until rocking just goes, indicator across it.", "Lock, and read the drive’s load both ways after the job."]
        : options.gib === "knee"
        ? ["Turn in by quarters; at each read friction over the whole travel, then rock the member by hand (gib setting at station Set takes both and finds where rock ends and drag begins).", "Set back from the knee by 5 µm of clearance.", "Lock the far screw against it, read once more."]
        : options.gib === "seize-and-back"
          ? ["Tighten until the axis seizes, back off until the full travel is free.", "Lock, and read the load once more."]
        : options.gib === "lost-motion"
          ? ["Turn in by quarters; at each reverse the axis against the indicator (gib setting at station Set takes it and finds where it falls no further).", "Lock, and read the load once more."]
          : ["Rock by hand, indicator across it, turning in until rocking just goes.", "Lock, and read the load once more."],
      good: "Even load end to end, no rock above 0.02 mm.", ifNot: "Tight at one end only: the way is worn there; set it for the tight end.",
    }),
    tools: ["indicator on a magnetic base", "spring scale"],
  },
  {
    id: "hold-load", scope: "axis", phase: "work", opens: "load-held", needs: ["covers-off"], minutes: 10, people: 2, reachIn: true,
    words: (axis) => ({ title: `Hold the ${memberName(axis).toLowerCase()}’s weight`, why: "A carriage comes off only unloaded.", how: ["Jack or lifting gear just taking the weight at the corner.", "Indicator at that corner: it must not rise."], caution: "Never a hand between rail and member.", good: "The needle stands still as the screws come out." }), tools: ["jack or lifting gear", "indicator on a magnetic base"],
  },
  {
    id: "release-load", scope: "axis", phase: "work", closes: "load-held", needs: ["covers-off"], minutes: 6, people: 2, reachIn: true, after: ["carriage-on"],
    words: { title: "Let the weight down", why: "Onto all carriages again.", how: ["Slowly, watching the indicator."], good: "The needle comes back to where it was." },
  },
  {
    id: "carriage-off", scope: "axis", phase: "work", opens: "carriage-off", needs: ["load-held"], minutes: 13, reachIn: true,
    words: { title: "One carriage off: opposite corners, one at a time", why: "The others keep the member in line.", how: ["Screws out, slide it off onto the transport rail.", "Look along the rail while it is clear."], good: "No pits along the rail.", ifNot: "A pitted rail eats the new carriage: renew it too." }, finds: [{ id: "sound", words: "rail sound" }, { id: "pitted", words: "rail pitted" }, { id: "missing", words: "balls missing", say: "Find them before anything moves." }], tools: ["hex keys", "transport rail"],
  },
  {
    id: "carriage-on", scope: "axis", phase: "work", closes: "carriage-off", needs: ["load-held"], minutes: 16, reachIn: true,
    words: { title: "New carriage on; then the next, corner by corner", why: "Its balls stay in only on a rail.", how: ["Keep the transport rail in until it slides across.", "Grease nipple outwards.", "Four bolts crosswise to torque, reference edge first.", "Repeat for the other corners before the load comes off the last."], good: "Slides by hand without a catch." }, torque: "housing", parts: [{ name: "rail carriage", count: 4, order: true, cost: "bearing-set" }], tools: ["torque wrench"], consumables: ["carriage grease"],
  },
  {
    id: "loosen-wheels", scope: "axis", phase: "work", opens: "wheels-loose", needs: ["covers-off"], minutes: 3, reachIn: true,
    words: { title: "Loosen the eccentric spacers", why: "Contact is set from free.", how: ["Hold the axle, turn the spacer away from the rail."], good: "The wheels turn freely." }, tools: ["two spanners"],
  },
  {
    id: "set-wheels", scope: "axis", phase: "work", closes: "wheels-loose", does: "wheels-set", needs: ["covers-off"], minutes: 13, reachIn: true,
    words: { title: "Set each wheel until it just turns by hand", why: "Pinched bearings die, free wheels wobble.", how: ["Turn the spacer until the wheel touches over the whole travel.", "Each wheel, in contact, must just turn by hand.", "Hold the spacer while its screw is tightened."], good: "No wheel free, none stuck, no rock." }, parts: [{ name: "V-wheel with bearings", count: 1, cost: "small" }],
  },
  {
    id: "loosen-rack", scope: "axis", phase: "work", opens: "rack-loose", needs: ["covers-off", "drive-unplugged"], minutes: 10, reachIn: true,
    words: { title: "Find the spot, loosen the rack near it", why: "The pinion sets the rack’s depth by itself.", how: ["Push along, mark where it goes tight.", "Brush out teeth; look for a chip or a raised joint.", "Loosen three screws each side of the mark."], good: "The rack gives by hand." }, tools: ["brush", "hex keys", "marker"], finds: [{ id: "chip", words: "a chip in a tooth", say: "Often that was all: push again before you loosen anything." }, { id: "joint", words: "raised joint" }, { id: "none", words: "nothing to see" }],
  },
  {
    id: "set-rack", scope: "axis", phase: "work", closes: "rack-loose", needs: ["covers-off", "drive-unplugged"], minutes: 13, reachIn: true,
    words: { title: "Let the pinion set it, tighten", why: "Mesh alike all along.", how: ["Pinion over the spot, push to and fro.", "Tighten from the middle outwards, pushing between.", "Grease the teeth as the maker states."], good: "Even push over the whole length." }, torque: "housing", tools: ["torque wrench"],
  },
  {
    id: "relieve-cage", scope: "axis", phase: "work", opens: "cage-loose", needs: ["covers-off", "@front"], minutes: 6, reachIn: true,
    words: { title: "Relieve the preload screws a quarter turn each", why: "A squeezed cage creeps instead of rolling.", how: ["Note the place of each.", "A quarter turn each, in order."], good: "The slide moves with a light push." }, tools: ["hex keys"],
  },
  {
    id: "centre-cage", scope: "axis", phase: "work", closes: "cage-loose", does: "cage-centred", needs: ["covers-off", "@front"], minutes: 13, reachIn: true,
    words: { title: "Centre the cage, tighten with fingertips", why: "It walks back to the middle against both stops.", how: ["Push to both ends until the full travel is there.", "Tighten with fingertips only, from the far side.", "Try for play across, indicator on the member."], good: "Full travel, no play.", ifNot: "It creeps again: a stop or a roller is damaged." }, tools: ["indicator on a magnetic base"],
  },
  {
    id: "switch-off", scope: "axis", phase: "work", opens: "switch-off", needs: ["covers-off"], minutes: 6, reachIn: true,
    words: { title: "Home switch and its cable off", why: "A broken cable makes and breaks as it bends.", how: ["Mark the switch’s place.", "Bend the old cable along its length with a meter on it: it shows where."], good: "You know which of the two it was." }, tools: ["meter", "hex keys"], finds: [{ id: "dirty", words: "switch dirty" }, { id: "cable", words: "cable broken" }, { id: "sound", words: "both sound" }], photo: "the switch’s place",
  },
  {
    id: "switch-on", scope: "axis", phase: "work", closes: "switch-off", does: "switch-set", needs: ["covers-off"], minutes: 20, reachIn: true,
    words: { title: "New switch and cable, half a turn from the marker", why: "Within a fifth of a turn from the marker, home can jump a whole turn.", how: ["Same place; cable with slack at the bend, tied twice.", "Distance from trip to marker near half a turn (Sums: home marker)."], good: "Between 0.2 and 0.8 of a turn." }, parts: [{ name: "home switch with cable", count: 1, order: true, cost: "small" }], reading: { label: "Trip to marker, turns", quantity: "turns", from: 0.2, to: 0.8 },
  },
  {
    id: "head-loose", scope: "axis", phase: "work", opens: "head-loose", needs: [], minutes: 6, reachIn: true, people: 2,
    words: { title: "Ease the head’s bolts, never out", why: "A finger’s width of thread stays in: the head is heavy.", how: ["Sweep first (tram at station Set): slopes and shims by bolt.", "Ease crosswise, one quarter turn."], caution: "The head must stand on its support: it can swing or drop.", good: "A shim can be slid in." }, tools: ["spanners", "indicator in the spindle", "lifting gear"],
  },
  {
    id: "shim-head", scope: "axis", phase: "work", closes: "head-loose", does: "head-square", needs: [], minutes: 26, reachIn: true, people: 2,
    words: { title: "Shim it square, tighten, sweep again", why: "Slope times bolt distance is the shim.", how: ["Shims from stock as the tram sum says; whole faces, no stack above three.", "Tighten crosswise; sweep after each round.", "Datum: the bare table; the vice is a check of its own. Record which."], good: "0.050 mm over 300 mm or less." }, torque: "housing", parts: [{ name: "shim stock", count: 1, cost: "small" }], tools: ["torque wrench"], reading: { label: "Shims together", quantity: "length", from: 0, to: 5, optional: true },
  },
]; // prettier-ignore
