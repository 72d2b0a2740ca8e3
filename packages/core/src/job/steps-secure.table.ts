import { isSelfLocking, isStretched, memberMass } from "../machine/mechanism";
import { balanced, gravity, isTab, made, memberOf, screwOf, supportAlone, to, weightText } from "./said";
import type { StepContext, StepKind } from "./step-kind";

/** A bench machine or an engraver: little covers, few screws. */
const isSmall = (config: StepContext["config"]): boolean =>
  config.transmission !== "rack" && config.screw.nominalMm <= 16;

const isRotating = (config: StepContext["config"]): boolean => config.transmission === "rotating-nut";

function warmAt(config: StepContext["config"]): string {
  if (isRotating(config)) return "warmth of the nut housing";
  return gravity(config) ? "warmth of the top bearing" : "warmth of the bearing end";
}

/** What a rise of the load says, by what drives the axis. */
function riseText(config: StepContext["config"]): string {
  if (config.transmission === "rack")
    return "At one place: that spot of the rack. Once per turn of the pinion: the pinion.";
  if (isRotating(config))
    return "Rises towards one end: the screw’s clamps are out of line. Once per turn of the nut: its housing or pulley runs out.";
  return `Rises towards one end: the screw is out of line, align. Once per turn: ${config.transmission === "belt" ? "pulley" : "coupling"} or journal.`;
}

/** What the first check looks at: only what this axis has, and this sheet touched. */
function weekChecks({ config, sheet }: StepContext): readonly string[] {
  const checks = [
    sheet.has("retest-chain") ? "the loss, at the same place" : "",
    sheet.has("bearing-in") || sheet.has("set-preload") ? warmAt(config) : "",
    sheet.has("set-gib") || sheet.has("carriage-1") || sheet.has("set-wheels") || sheet.has("centre-cage")
      ? "how it moves end to end"
      : "",
    sheet.has("belt-on") ? "the belt’s tension" : "",
    sheet.has("switch-on") ? "home, seven times" : "",
    sheet.has("shim-head") || sheet.has("shim-column") ? "the sweep of the table" : "",
    "the paint marks on what was tightened",
  ];
  return checks.filter(Boolean);
}

/** Before anything is undone: measured, noted, parked, held. Common practice, no source. */
// prettier-ignore
export const SECURE_STEPS: readonly StepKind[] = [
  {
    id: "measure-before", phase: "prepare", hands: "out", power: "on", minutes: 8,
    effects: [made("before-known"), made("compensation-noted")], verbs: ["reverse"],
    text: ({ options }) => ({ title: "Measure the loss before", why: "The same test at the same place afterwards proves what the work did.", how: ["Two-sided approach at the place that was measured last, or half way along the travel.", "Note the entered compensation beside it: what is lost is reading plus entered.", "Take the figure over from the last test only if nothing has been touched since.", ...(options.circle ? ["A circle is the retest too: take one now, at Prove, unless one of this plane and feed is as fresh."] : [])], good: "A figure with its U that nobody doubts." }),
    reading: { label: "Loss before", quantity: "deviation", from: -1, to: 5 }, tools: ["indicator on a magnetic base", "gauge block"],
  },
  {
    id: "trace-before", phase: "prepare", hands: "out", power: "on", minutes: 6, effects: [made("travel-known")], verbs: ["jog"],
    text: ({ config }) => ({ title: "Run the travel before", why: "What drags now is compared with what drags afterwards.", how: config.motor === "servo" ? ["Slow traverse end to end, both ways; load trace at station Locate, or read the meter at five places.", "Listen, and note where it changes."] : ["Slow jog end to end, both ways; note where it labours or loses steps.", "An indicator at one place: come back to it from the far end and read."], good: "A note of where, and how much." }),
    tools: ["indicator on a magnetic base"],
  },
  {
    id: "sweep-before", phase: "prepare", hands: "out", power: "on", minutes: 10, effects: [made("sweep-known")],
    text: { title: "Sweep first", why: "The shims come from what is swept now.", how: ["Tram at station Set: sweep the bare, stoned table; the span as you swept it.", "Say there what is shimmed, and how far its bolts stand apart: it gives the shims and what the sweep will read with them.", "The spindle is turned by hand: its drive off."], good: "Slopes with their ±, and shims bolt by bolt." },
    tools: ["indicator in the spindle"],
  },
  {
    id: "note-home", phase: "prepare", hands: "out", power: "on", minutes: 3, effects: [made("home-noted")],
    text: { title: "Note what will be lost", why: "With the coupling, belt or switch off, home and its offset are gone.", how: ["Go to a mark you can find again, scribed or stuck on, and write the position beside it.", "Note home offset, entered compensation and whatever else changes."], good: "A mark on the ways and a number beside it." },
    photo: "the control’s page with compensation and home offset", consumables: ["marker"],
  },
  {
    id: "go-opening", phase: "prepare", hands: "out", power: "on", minutes: 4, verbs: ["jog"], needs: ({ config, sheet }) => (config.mechanics.couplingHidden && sheet.has("hub-ease") ? [{ joint: "panel", at: "off", side: "open" }] : []),
    effects: ({ sheet }) => [{ kind: "member", to: supportAlone(sheet) ? "near-far" : "opening", by: "jog" }, made("at-opening")],
    text: ({ config, sheet }) => {
      const far = supportAlone(sheet);
      const things = [sheet.has("hub-ease") ? "the clamp screw faces the opening" : "", gravity(config) ? "the block fits under the casting" : "", balanced(config) ? "the pin hole of the balance is in line" : "", gravity(config) ? "a hook can reach" : ""].filter(Boolean);
      return far
        ? { title: `Bring the ${memberOf(config)} near the far end`, why: "Its nut then carries the free end of the screw.", how: ["Jog it there, leaving room for the key.", ...(things.length ? [`Where ${things.join(", ")}.`] : [])], good: "The support can be reached, the nut is close to it." }
        : { title: `Bring the ${memberOf(config)} to where everything can be reached`, why: "Afterwards nothing can be jogged.", how: things.length ? [`Jog to where ${things.join(", ")}.`, "Hands out while it moves."] : ["Jog to where covers and nut can be reached, and room is left for the key.", "Hands out while it moves."], good: "What has to be turned faces you." };
    },
  },
  {
    id: "set-block", phase: "prepare", hands: "out", power: "on", minutes: 8, verbs: ["lower"], fits: gravity,
    effects: ({ config }) => [{ kind: "block", to: "set" }, ...(balanced(config) && !config.brake ? [{ kind: "tie", to: true } as const] : [])],
    text: ({ config }) => ({
      title: balanced(config) && !config.brake ? `Block under the ${memberOf(config)}, and tie it down` : `Block under the ${memberOf(config)}`, why: "Once coupling, nut or bearing is undone, it falls.",
      how: [
        `It weighs ${weightText(config)}: a sound block or stand rated for it, standing flat, nothing stacked.`,
        config.member === "head" || config.member === "quill" ? "Under the casting or the cartridge flange, never the spindle nose." : "Under the casting, never under a cover or a motor.",
        "Lower onto it by the smallest step until the load first changes, and stop.",
        ...(balanced(config) && !config.brake ? ["No brake holds it, and a balance heavier than the member lifts it when the power goes: strap or chain it down to the bed, rated, just taut."] : []),
      ],
      caution: "Set it from the side with the axis stopped. Nobody under it, no hand between.", good: "It stands full-faced on the block.", ifNot: "Take another block: nothing that can tip or roll.",
    }),
    people: ({ config }) => (memberMass(config).kg > 40 ? 2 : 1),
    tools: ({ config }) => ["block or stand rated for the weight", ...(balanced(config) && !config.brake ? ["strap or chain rated for the balance"] : [])], photo: "the block in place",
  },
  {
    id: "isolate", scope: "machine", phase: "secure", hands: "out", power: "on", minutes: 6, effects: [{ kind: "power", to: "isolated" }],
    text: { title: "Isolate, lock, prove dead", why: "Nobody starts a machine with hands in it.", how: ["Other upright axes of this machine that no brake holds: lowered onto a block or their stop first.", "Main switch off, each their own lock and tag on it.", "Air off and vented; wait for the drives’ discharge as long as the manual says; prove dead.", "Local rules and the machine’s manual come before this sheet."], caution: "Electrical cabinets are for qualified persons under local rules.", good: "The start button does nothing." },
    tools: ["own lock and tag", "voltage tester (qualified person)"], hold: "I have isolated and locked out this machine and proved it dead.",
  },
  {
    id: "try-block", phase: "secure", hands: "out", power: "isolated", minutes: 3, fits: gravity,
    effects: ({ config, state }) => config.brake && config.mechanics.brakeLever && !state.brakeLet && state.joints.motor !== "off"
      ? [{ kind: "brake-let", to: true }, { kind: "block", to: "tried" }, { kind: "brake-let", to: false }]
      : [{ kind: "block", to: "tried" }],
    text: ({ config, state }) => {
      const lever = config.brake && config.mechanics.brakeLever && !state.brakeLet;
      return {
        title: "Try the block", why: "A block that has not been tried is not a block.",
        how: [
          lever ? "Let the brake go by its lever, slowly, an indicator on the casting: it neither sinks nor rises. Lever back." : balanced(config) && state.balance === "acts" ? "With the drive off only block and strap hold it: an indicator on the casting, and lean on it. It neither sinks nor rises." : "Nothing but the block carries it now: an indicator on the casting, and lean on it. It does not sink.",
        ],
        caution: "Stand beside it, nobody under it.", good: "Less than 0.1 mm.", ifNot: "Do not go on: power on, raise it, set the block anew.",
      };
    },
    tools: ["indicator on a magnetic base"], hold: "The member stands on its block and nothing else. I have tried it.",
  },
  {
    id: "secure-balance", phase: "secure", hands: "in", power: "isolated", minutes: 10, fits: balanced,
    effects: [{ kind: "balance", to: "secured" }],
    text: ({ config }) => config.gasSpring
      ? { title: "Secure the gas spring, against both directions", why: "It is stored energy: it lifts the freed member.", how: ["Relieve or pin it as its maker says; never open it.", "Nothing moves when it is pinned: watch the mark."], caution: "Stored energy. A spring that is let go does not ask.", good: "No load left on the rod." }
      : { title: "Pin the counterweight, against both directions", why: "Heavier than the member it would lift it; lighter, it comes down with it. It is stored energy, never a holder.", how: ["Pin through its guide, or prop below and a stop above.", "Look that the chain can go slack without leaving its wheels."], caution: "A chain under load gives no second chance: nobody under the weight.", good: "The chain can be moved by hand." },
    tools: ["pin or props rated for the balance"],
  },
  {
    id: "panel-off", phase: "prepare", hands: "in", power: "isolated", minutes: 5, effects: [to("panel", "off")],
    text: { title: "Panel before the coupling off", why: "The coupling hides behind it, and its clamp screw faces the opening at one place only.", how: ["Screws in a bag by place.", "Look where its clamp screw stands: the axis is jogged to where it faces you, hands out."], good: "You see which way the clamp screws face." }, tools: ["hex keys"], consumables: ["bags and marker"],
  },
  {
    id: "covers-off", phase: "secure", hands: "in", power: "isolated", minutes: ({ config }) => (isSmall(config) ? 5 : 13), effects: [to("covers", "off")],
    text: ({ config }) => ({ title: "Covers off", why: "The drive is under them.", how: ["Screws bagged by place; note which way the wipers face.", "Sharp edges: gloves. Long covers by two people.", "Clean chips away before they fall into what you open.", ...(gravity(config) && !config.dragBrake && !config.mechanics.dragBrakeKnown ? ["Nobody has noted whether a drag brake is fitted: look now. It resists one way only, and that is its job."] : [])], good: "What has to be opened can be seen." }),
    tools: ["hex keys", "gloves"], consumables: ["cloths", "bags and marker"], photo: "the open drive before anything is touched",
  },
  {
    id: "bumper-off", phase: "secure", hands: "in", power: "isolated", minutes: 3, effects: [to("bumper", "off")],
    text: { title: "Bumper off", why: "It stands before the housing screws.", how: ["Note its side and its spacer."], good: "Every housing screw can be reached." }, tools: ["hex keys"],
  },
  {
    id: "table-off", phase: "secure", hands: "in", power: "isolated", minutes: 20, people: 2, effects: [to("table", "off")],
    text: { title: "Table off its ways", why: "On this machine the nut’s screws are under it.", how: ["Gib eased at its retainer and drawn, its small end marked.", "Slide the table off the end of its ways by two people onto a bench of the same height.", "Its handle or motor end goes with the screw as the book shows."], caution: "Heavy and all edges: clear way, flat hands.", good: "The nut and its retaining screw can be seen." }, tools: ["hex keys", "screwdriver for the adjuster"],
  },
  {
    id: "note-stretch", phase: "secure", hands: "in", power: "isolated", minutes: 5, fits: isStretched, effects: [made("stretch-noted")], needs: [{ joint: "covers", at: "off", side: "open" }],
    text: { title: "Note the screw’s stretch", why: "This screw is held at both ends and pulled: it is set again last.", how: ["Indicator on the screw’s end at the tension nut, or measure nut to housing face; write it down.", "The book’s elongation beside it."], good: "A figure to come back to." }, tools: ["indicator on a magnetic base", "micrometer"], reading: { label: "Stretch noted", quantity: "deviation", from: 0, to: 0.5, optional: true },
  },
  {
    id: "try-self-lock", phase: "secure", hands: "out", power: "isolated", minutes: 1, fits: (c) => gravity(c) && isSelfLocking(c), effects: [made("self-lock-tried")],
    text: ({ config }) => ({ title: `Try that the ${screwOf(config)} holds by itself`, why: "A plain thread of low lead holds; a worn or oily one may not.", how: ["Lean on the member with the power off; watch the coupling."], good: "Nothing turns." }),
  },
  {
    id: "tools-out", scope: "machine", phase: "power", hands: "out", power: "isolated", minutes: 3, effects: [],
    text: { title: "Tools counted, everybody clear", why: "What is forgotten inside is found by the screw.", how: ["Count the tools back.", "Walk round the machine and look in."], good: "Nothing lies in the machine, nobody stands in it." },
    hold: "I have counted the tools and seen everybody clear.",
  },
  {
    id: "energise", scope: "machine", phase: "power", hands: "out", power: "isolated", minutes: 3, effects: [{ kind: "power", to: "on" }],
    text: { title: "Locks off, power and drives on", why: "The axis proves itself under power.", how: ["Each takes their own lock off; say it aloud.", "Air on, main switch on, drives on; one hand on the stop."], caution: "Hands out, everybody where you can see them.", good: "No alarm that is not explained; a brake is heard to release." }, hold: "Everybody is clear and knows that the power comes on.",
  },
  {
    id: "untie", phase: "power", hands: "out", power: "on", minutes: 2, fits: (c) => balanced(c) && !c.brake, effects: [{ kind: "tie", to: false }],
    text: ({ config }) => ({ title: "Strap off", why: "The drive holds it against both directions now.", how: [`Drive on and in position: load on the meter steady. Then slacken the strap from outside the ${memberOf(config)}’s way.`], caution: "If it moves as the strap slackens: tighten again, power off.", good: "Nothing moved." }),
  },
  {
    id: "remove-block", phase: "power", hands: "out", power: "on", minutes: 6, verbs: ["raise"], fits: gravity, effects: [{ kind: "block", to: "none" }],
    text: ({ config }) => ({ title: "Raise a hand’s breadth, wait, block out", why: "The drive must carry before the block goes.", how: [`Raise the ${memberOf(config)} by the smallest steps, a hand’s breadth. Stop. Wait a minute: it must not sink.`, "Only then draw the block out from the side, by its handle or a hook."], caution: "No hand between block and member, ever.", good: "It holds without sinking.", ifNot: "Down onto the block, isolate, and look at coupling and brake." }),
    people: ({ config }) => (memberMass(config).kg > 40 ? 2 : 1), hold: "The drive carries the member and it does not sink.",
  },
  {
    id: "creep", phase: "prove", hands: "out", power: "on", minutes: 3, verbs: ["creep"], effects: [made("crept")],
    text: ({ config }) => ({ title: "Creep a hand’s breadth both ways", why: "What rubs or is the wrong way round shows now, while it is slow.", how: ["Lowest feed, one hand on the stop, hands out.", gravity(config) ? "Up first, then down; watch that it stops where you stop." : "Away from the near end first.", "The soft limits may be off by up to a turn: nowhere near the stops yet."], good: "It goes the right way and stops at once." }),
  },
  {
    id: "reference", phase: "prove", hands: "out", power: "on", minutes: 4, verbs: ["home"], uses: ({ sheet, state }) => (sheet.has("note-home") || state.notes["home-noted"] ? ["home-noted"] : []), effects: [{ kind: "referenced" }],
    text: ({ config, sheet, state }) => {
      const servo = config.motor === "servo";
      const noted = sheet.has("note-home") || state.notes["home-noted"];
      return { title: "Reference the axis again", why: "The control no longer knows where the axis stands.", how: [servo ? "Home it; the distance from trip to marker should lie between a fifth and four fifths of a turn." : "Home it slowly, twice: it stops at its switch both times alike.", noted ? "Go to the scribed mark and set the offset by the difference." : "No mark was made before: touch off on a face whose place is known, and set the offset by the machine’s book."], good: noted ? "The mark and the number agree." : "The face stands where it is known to stand.", ifNot: servo ? "A whole turn off: the marker has moved past the switch; turn the hub, or move the switch." : "Not alike: the switch, its cable, or lost steps; find it before anything is cut." };
    },
  },
  {
    id: "slow-jog", phase: "prove", hands: "out", power: "on", minutes: 6, verbs: ["full-travel"], effects: [made("jogged")],
    text: ({ config }) => ({ title: "Slow jog end to end, slowing before both stops", why: "What binds shows while it is slow.", how: ["Lowest feed, hands out, one hand on the stop.", config.motor === "servo" ? "Watch the load both ways, listen at both ends." : "Listen at both ends; a stepper that labours changes its tone."], good: "Even sound, no rise at the ends.", ifNot: riseText(config) }),
    reading: ({ config }) => (config.motor === "servo" ? { label: "Highest drive load", quantity: "load", from: 0, to: 60, optional: true } : null),
  },
  {
    id: "retest-chain", phase: "prove", hands: "out", power: "on", minutes: 10, verbs: ["reverse"], retest: "chain", uses: ["compensation-noted"], effects: [made("retested:chain")],
    text: ({ sheet }) => ({ title: "Retest: same test, same place, same indicator", why: "Nothing is closed before it passes.", how: ["Under the same entered compensation as before: lost is reading plus entered.", "Take it at station Measure, or type the figure here.", ...(sheet.has("bearing-in") || sheet.has("new-screw") ? [`On ${sheet.has("bearing-in") ? "fresh bearings" : "a fresh screw"}, spikes of friction at reversal are normal and settle: friction compensation stays at zero.`] : [])], good: "Below what can be left, and the difference more than both U together.", ifNot: "Over, or cannot tell: nothing is closed. Find which link still moves." }),
    tools: ["indicator on a magnetic base", "gauge block"],
  },
  {
    id: "retest-travel-load", phase: "prove", hands: "out", power: "on", minutes: 6, verbs: ["full-travel", "read-load"], retest: "travel-load", effects: [made("retested:travel")],
    text: { title: "Retest: load over the whole travel", why: "A guideway proves itself by even load.", how: ["Load trace or meter, slowly both ways over the whole travel, as before."], good: "No rise at an end or a spot; full travel reached." },
    reading: { label: "Highest load less lowest", quantity: "load", from: 0, to: 8 },
  },
  {
    id: "retest-travel-steps", phase: "prove", hands: "out", power: "on", minutes: 8, verbs: ["full-travel"], retest: "travel-steps", effects: [made("retested:travel")],
    text: { title: "Retest: full travel without lost steps", why: "A stepper has no load to read: it proves itself by coming back.", how: ["Indicator at one place, zero it.", "Slow jog, then three strokes end to end at the feed it works at.", "Come back from the same side and read."], good: "The same reading, within what it repeats.", ifNot: "Short by whole steps: it still binds, or the feed is too high." },
    reading: { label: "Came back off by", quantity: "deviation", from: -0.02, to: 0.02 }, tools: ["indicator on a magnetic base"],
  },
  {
    id: "retest-home", phase: "prove", hands: "out", power: "on", minutes: 6, verbs: ["home"], retest: "home", effects: [made("retested:home")],
    text: { title: "Retest: home seven times", why: "A switch proves itself by repeating.", how: ["Home test at station Set, seven times."], good: "No jump by a whole turn; repeats within 20 µm." },
    reading: { label: "Range of home", quantity: "deviation", from: 0, to: 0.02 }, tools: ["indicator on a magnetic base"],
  },
  {
    id: "retest-tram", phase: "prove", hands: "out", power: "on", minutes: 10, retest: "tram", uses: ["sweep-known"], effects: [made("retested:tram")],
    text: { title: "Retest: sweep the table", why: "Bolts pull a head while they are tightened.", how: ["The same sweep on the bare table, spindle drive off and turned by hand.", "The vice or fixture is a check of its own."], good: "0.050 mm over 300 mm or less (0.001 in over 6 in), with its ±." },
    reading: { label: "Out of square over 300 mm", quantity: "deviation", from: 0, to: 0.05 }, tools: ["indicator in the spindle"],
  },
  {
    id: "retest-plumb", phase: "prove", hands: "out", power: "on", minutes: 12, retest: "plumb", verbs: ["full-travel"], uses: ["sweep-known"], effects: [made("retested:plumb")],
    text: { title: "Retest: column plumb, then the sweep", why: "The column decides where the head goes as it travels; the sweep only how it stands.", how: ["Square on the table, indicator in the spindle: run the head up and down, two planes.", "Then sweep the table once more."], good: "Within what is fine in both planes." },
    reading: { label: "Out of plumb over 300 mm", quantity: "deviation", from: 0, to: 0.05 }, tools: ["indicator in the spindle", "precision square"],
  },
  {
    id: "retest-pattern", phase: "prove", hands: "out", power: "on", minutes: 12, verbs: ["full-travel"], retest: "pattern", effects: [made("retested:pattern")],
    text: { title: "Retest: a test pattern", why: "Carriages decide whether two axes stay square, which no single axis shows.", how: ["Where a spindle hangs on what was opened: sweep the table first, tram at station Set.", "Square and circle in scrap or with a pen, at the feed it works at.", "Measure both diagonals; look at the corners."], good: "Diagonals alike within what the machine held before." },
    reading: { label: "Difference of the diagonals", quantity: "deviation", from: 0, to: 0.2, optional: true }, tools: ["caliper or steel rule"],
  },
  {
    id: "retest-circle", phase: "prove", hands: "out", power: "on", minutes: 15, verbs: ["full-travel"], retest: "circle",
    text: ({ letter, sheet }) => ({ title: "Retest: a circle", why: `It shows ${letter} beside another axis at the feed it works at: what it still loses, how steadily it goes, and how both stand.`, how: ["At Prove: the plane, radius and feed of the circle before the job; with none before, the plane it works in most.", "Some strokes first, then both ways round, doors shut. The bar is set on and taken off only while the program waits.", ...(sheet.has("bearing-in") || sheet.has("new-screw") ? ["Spikes where it turns round are normal on fresh parts and are not judged; friction compensation stays at zero."] : [])], caution: "Covers may still be off: where a hand has to pass open ways, screw or coupling to set the bar, guard them first. Nobody reaches in while anything moves, nor for a bar that falls.", good: `Nothing of ${letter} above what can be left.`, ifNot: "Over, or cannot tell: nothing is closed. The circle names the part." }),
    tools: ["bar between two magnetic seats"],
  },
  {
    id: "review-compensation", phase: "prove", hands: "out", power: "on", minutes: 3, uses: ["retested:chain"],
    text: { title: "Entered compensation down to what is left", why: "What was entered for the old slack is too much for the new.", how: ["Set it to what the retest says, never above; then the aim is zero.", "Above what may be compensated: mechanics first."], good: "The reversal reads zero within U, never negative." },
  },
  {
    id: "park", phase: "close", hands: "out", power: "on", minutes: 4, verbs: ["lower"], fits: gravity,
    effects: ({ config }) => [{ kind: "block", to: "set" }, ...(balanced(config) && !config.brake ? [{ kind: "tie", to: true } as const] : [])],
    text: ({ config }) => ({ title: `Park the ${memberOf(config)} on its block`, why: "Hands go in once more.", how: ["Lower onto the same block by the smallest step until the load first changes.", ...(balanced(config) && !config.brake ? ["Strap on again: nothing else holds it down when the power goes."] : [])], caution: "Nobody under it, no hand between.", good: "It stands full-faced on the block." }), tools: ["block or stand rated for the weight"],
  },
  {
    id: "tab-fold", phase: "close", hands: "in", power: "isolated", minutes: 4, fits: isTab, restores: true, uses: ({ state }) => (state.notes["nut-moved"] ? ["preload-set"] : []), effects: [to("nut-lock", "tight")],
    text: { title: "Fold the tab", why: "Only now: the retest has passed.", how: ["Into the slot that fits.", "None fits: another washer, or onward within the torque; never back."], good: "It lies flat in its slot." }, tools: ["drift", "hammer", "eye protection"], photo: "the folded tab",
  },
  {
    id: "covers-on", phase: "close", hands: "in", power: "isolated", minutes: ({ config }) => (isSmall(config) ? 5 : 13), restores: true, effects: [to("covers", "tight")], torques: ["covers"],
    text: { title: "Covers on", why: "They keep chips out and hands away.", how: ["Look in once more; count the bags.", "Every screw where it was, wipers the right way round, sealant where it was."], good: "They slide without a scrape." }, photo: "the closed axis", tools: ["hex keys"],
  },
  {
    id: "panel-on", phase: "close", hands: "in", power: "isolated", minutes: 4, restores: true, effects: [to("panel", "tight")],
    text: { title: "Panel on", why: "Nothing may reach the coupling while it runs.", how: ["Every screw, cable clear of the hub."], good: "It sits flush." }, tools: ["hex keys"],
  },
  {
    id: "last-stroke", phase: "close", hands: "out", power: "on", minutes: 2, verbs: ["full-travel"],
    text: { title: "One slow stroke with everything closed", why: "Production takes it back running.", how: ["End to end and back, hands out."], good: "No scrape, no alarm." },
  },
  {
    id: "sign-off", scope: "machine", phase: "close", hands: "out", power: "on", minutes: 3,
    text: (c) => ({ title: "Sign off and set the first check", why: "Fresh parts settle; the first week shows it.", how: ["Tell the operator what to listen for.", `In a week: ${weekChecks(c).join(", ")}.`], good: "The machine earns again." }),
    hold: "Everything on this sheet is done, what was taken off is back on, and the retest stands.",
  },
];
