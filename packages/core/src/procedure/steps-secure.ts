import { isGravityAxis, memberName } from "../axis";
import type { StepTemplate } from "./types";

/** Before anything is undone: what will be lost is noted, the member is made safe. */
export const SECURE_STEPS: readonly StepTemplate[] = [
  {
    id: "measure-before", scope: "axis", phase: "prepare", does: "before-known", minutes: 8,
    words: { title: "Measure the loss before", why: "The same test at the same place afterwards proves what the work did.", how: ["Two-sided approach at the place that was measured last, or half way along the travel.", "Enter the figure, or take it over from the last test if nothing has been touched since."], good: "A figure with its U that nobody doubts." },
    reading: { label: "Loss before", quantity: "deviation", from: -1, to: 5 }, tools: ["indicator on a magnetic base", "gauge block"],
  },
  {
    id: "note-home", scope: "axis", phase: "prepare", does: "home-noted", minutes: 3,
    words: { title: "Note home and what will be lost", why: "With the motor or coupling off, the home position and its offset are gone.", how: ["Write down the machine position at a mark you can find again.", "Note entered backlash compensation, home offset and any other value that changes."], good: "A mark on the ways and a number beside it." },
    photo: "the control’s page with compensation and home offset", consumables: ["marker"],
  },
  {
    id: "set-block", scope: "axis", phase: "prepare", opens: "blocked", minutes: 10, people: 2,
    words: (axis) => ({
      title: `Block the ${memberName(axis).toLowerCase()}`, why: "Once brake, coupling, nut or bearing is undone, it falls.",
      how: ["Set a sound block or stand on the table, under the casting or the cartridge flange.", "Never under the spindle nose.", "Lower onto it slowly until it just carries."],
      caution: "Nobody under it, nobody’s hands between. A block rests flat and cannot roll.", good: "It stands full-faced on the block.", ifNot: "Take another block: nothing stacked, nothing that can tip.",
    }),
    tools: ["block or stand rated for the weight"], photo: "the block in place",
  },
  {
    id: "isolate", scope: "machine", phase: "secure", opens: "isolated", minutes: 6,
    words: { title: "Isolate, lock out, prove dead", why: "Nobody starts a machine with hands in it.", how: ["Main switch off, your own lock and tag on it.", "Air off and vented.", "Wait for drive capacitors as long as the manual says; prove dead.", "Local rules and the machine’s manual come before this sheet."], caution: "Electrical cabinets are for qualified persons under local rules.", good: "The start button does nothing." },
    tools: ["own lock and tag", "voltage tester (qualified person)"], hold: "I have isolated and locked out this machine and proved it dead.",
  },
  {
    id: "try-block", scope: "axis", phase: "secure", does: "block-tried", minutes: 3, needs: ["isolated", "blocked"],
    words: { title: "Try the block", why: "A block that has not been tried is not a block.", how: ["With the drive off, release the brake by hand if it can be, and lean on the member.", "Watch a mark: it must not sink."], caution: "Stand beside it, never under it.", good: "It does not move at all.", ifNot: "Do not go on. Energise, lift, set the block anew." },
    hold: "The member stands on its block with the drive off. I have tried it.",
  },
  {
    id: "secure-balance", scope: "axis", phase: "secure", opens: "balance-secured", minutes: 10, needs: ["isolated", "blocked"], reachIn: true,
    words: (axis) => ({
      title: axis.gasSpring ? "Secure the gas spring" : "Secure the counterweight", why: "It is stored energy: it lifts the freed member, or comes down itself.",
      how: [axis.gasSpring ? "Relieve or pin the spring as the manual says; never open it." : "Pin or sling the counterweight so that chain and weight cannot run.", "Check that the chain or rod is slack before anything is undone."],
      caution: "A chain under load does not give a second chance.", good: "No load on chain or rod.",
    }),
    tools: ["pin or sling rated for the weight"],
  },
  {
    id: "release-balance", scope: "axis", phase: "work", closes: "balance-secured", minutes: 6, reachIn: true,
    words: (axis) => ({ title: axis.gasSpring ? "Free the gas spring" : "Free the counterweight", why: "The drive was sized with it.", how: ["Take the load back onto chain or rod slowly.", "Take pin and sling away and count them."], good: "The chain carries, nothing rubs." }),
  },
  {
    id: "covers-off", scope: "axis", phase: "secure", opens: "covers-off", minutes: 13, reachIn: true,
    words: { title: "Take the covers off", why: "The drive is under them.", how: ["Note which screw was where; sharp edges, gloves.", "Heavy covers by two people.", "Clean chips away before they fall into what you open."], good: "You see coupling, housing and nut." },
    tools: ["hex keys", "gloves"], consumables: ["cloths"], photo: "the open drive before anything is touched",
  },
  {
    id: "bumper-off", scope: "axis", phase: "work", opens: "bumper-off", minutes: 3, needs: ["covers-off"], reachIn: true,
    words: { title: "Bumper off", why: "It stands in front of the housing.", how: ["Note its side and its spacer."], good: "Housing screws can be reached." }, tools: ["hex keys"],
  },
  {
    id: "bumper-on", scope: "axis", phase: "work", closes: "bumper-off", minutes: 3, needs: ["covers-off"], after: ["housing-tight", "motor-on"], reachIn: true,
    words: { title: "Bumper on", why: "It stops the member before the casting does.", how: ["Same side, same spacer."], good: "It sits tight." }, torque: "small",
  },
  {
    id: "unplug-drive", scope: "axis", phase: "secure", opens: "drive-unplugged", minutes: 2, reachIn: true,
    words: { title: "Unplug the drive of this axis", why: "It is pushed by hand: the drive must not answer.", how: ["Plug out only when dead; cover it against chips."], good: "The axis moves by hand." },
  },
  {
    id: "plug-drive", scope: "axis", phase: "work", closes: "drive-unplugged", minutes: 2, reachIn: true,
    words: { title: "Plug the drive in again", why: "The axis must hold when power comes.", how: ["Lock the plug; look at its pins first."], good: "It clicks home." },
  },
]; // prettier-ignore

/** Power comes back: the drive carries again, the axis proves itself. */
export const POWER_STEPS: readonly StepTemplate[] = [
  {
    id: "tools-out", scope: "machine", phase: "power", does: "tools-out", minutes: 3, needs: ["isolated"],
    words: { title: "Tools and hands out", why: "What is forgotten inside is found by the screw.", how: ["Count the tools back.", "Walk round the machine and look in."], good: "Nothing lies in the machine, nobody stands in it." },
    hold: "I have counted the tools and seen everybody clear.",
  },
  {
    id: "energise", scope: "machine", phase: "power", closes: "isolated", minutes: 3, needs: ["tools-out"],
    words: { title: "Take your lock off and switch on", why: "The axis is jogged with power.", how: ["Each takes their own lock off.", "Air on, main switch on, drives on; one hand on the stop."], caution: "Say it aloud before you switch on.", good: "No alarm that is not explained." },
  },
  {
    id: "remove-block", scope: "axis", phase: "power", closes: "blocked", minutes: 6, people: 2, powered: true,
    words: { title: "Take the weight on the drive, then the block out", why: "The drive must carry before the block goes.", how: ["Drive on, brake heard to release.", "Raise the member a little off the block by slow jog.", "Stop, wait, watch it hold; only then draw the block out from the side."], caution: "Hands never between block and member.", good: "It holds without sinking.", ifNot: "Down onto the block again, isolate, and look at coupling and brake." },
    hold: "The drive carries the member and it does not sink.",
  },
  {
    id: "slow-jog", scope: "axis", phase: "prove", does: "jogged", minutes: 6, powered: true,
    words: (axis) => ({ title: "Slow jog over the whole travel", why: "What rubs or binds shows now, while it is slow.", how: ["Lowest feed, one hand on the stop, hands out of the machine.", "End to end, both ways; listen at both ends.", isGravityAxis(axis) ? "Downwards first by a hand’s width, then up." : "Away from the ends first."], good: "Even sound, even load, no rise at the ends.", ifNot: "Stop. Tight towards one end: align again. Tight once per turn: coupling or journal." }),
    reading: { label: "Highest drive load", quantity: "load", from: 0, to: 60, optional: true },
  },
  {
    id: "reference", scope: "axis", phase: "prove", does: "referenced", minutes: 3, powered: true, needs: ["jogged"],
    words: { title: "Reference the axis again", why: "Home was lost with the coupling or motor.", how: ["Home it, go to the mark that was noted, set the offset by the difference."], good: "The mark and the number agree.", ifNot: "A whole turn off: the marker moved past the switch; set the switch distance." },
  },
  {
    id: "retest-chain", scope: "axis", phase: "prove", does: "retested-chain", minutes: 10, powered: true, needs: ["jogged", "referenced"], retest: "chain",
    words: { title: "Retest: the same test at the same place", why: "Nothing is closed before it passes.", how: ["Same indicator, same place, same approach as before.", "Take it at station Measure, or type the figure here."], good: "Below what can be left, and the difference is more than both U together.", ifNot: "Find which link still moves before anything is closed." },
    tools: ["indicator on a magnetic base", "gauge block"],
  },
  {
    id: "retest-travel", scope: "axis", phase: "prove", does: "retested-travel", minutes: 6, powered: true, needs: ["jogged"], retest: "travel",
    words: { title: "Retest: load over the whole travel", why: "A guideway proves itself by even load.", how: ["Load trace or meter, slowly both ways over the whole travel.", "Rock the member by hand at three places when it is isolated again."], good: "No rise at an end or a spot, full travel reached." },
    reading: { label: "Highest load less lowest", quantity: "load", from: 0, to: 8 },
  },
  {
    id: "retest-home", scope: "axis", phase: "prove", does: "retested-home", minutes: 6, powered: true, needs: ["jogged"], retest: "home",
    words: { title: "Retest: home seven times", why: "A new switch proves itself by repeating.", how: ["Home test at station Set, seven times."], good: "No whole-turn jump; repeats within 20 µm." },
    reading: { label: "Range of home", quantity: "deviation", from: 0, to: 0.02 }, tools: ["indicator on a magnetic base"],
  },
  {
    id: "retest-tram", scope: "axis", phase: "prove", does: "retested-tram", minutes: 10, powered: false, needs: ["jogged"], retest: "tram",
    words: { title: "Retest: sweep the table", why: "Bolts pull a head while they are tightened.", how: ["The same sweep on the bare table, spindle isolated and turned by hand."], good: "0.050 mm over 300 mm or less (0.001 in over 6 in)." },
    reading: { label: "Out of square over 300 mm", quantity: "deviation", from: 0, to: 0.05 }, tools: ["indicator in the spindle"],
  },
  {
    id: "review-compensation", scope: "axis", phase: "prove", minutes: 3, powered: true, needs: ["retested-chain"],
    words: { title: "Look at the entered compensation", why: "What was entered for the old slack is too much for the new.", how: ["Set it to what the retest says, never above; then the aim is zero.", "Above what may be compensated: mechanics first."], good: "The reversal reads zero within U, never negative." },
  },
  {
    id: "isolate-again", scope: "machine", phase: "close", opens: "isolated-again", minutes: 3,
    words: { title: "Isolate again for closing up", why: "Tab and covers are where hands do not belong under power.", how: ["Main switch off, own lock on, prove dead."], good: "The start button does nothing." },
    hold: "I have isolated and locked out this machine again.",
  },
  {
    id: "covers-on", scope: "axis", phase: "close", closes: "covers-off", minutes: 13, needs: ["isolated-again"],
    words: { title: "Covers on", why: "They keep chips out and hands away.", how: ["Wipe and look in once more.", "Every screw where it was, wipers facing the right way."], good: "They slide without a scrape over the whole travel." },
    torque: "small", photo: "the closed axis",
  },
  {
    id: "energise-again", scope: "machine", phase: "close", closes: "isolated-again", minutes: 2,
    words: { title: "Lock off, switch on", why: "Production takes it back running.", how: ["Locks off, power on, one slow stroke with covers on."], good: "No scrape, no alarm." },
  },
  {
    id: "sign-off", scope: "machine", phase: "close", does: "signed", minutes: 3,
    words: { title: "Sign off and set the first check", why: "Fresh parts settle; the first week shows it.", how: ["Tell the operator what to listen for.", "Set a check in a week: loss, warmth of the bearing end, fasteners."], good: "The machine earns again." },
    hold: "Everything on this sheet is done, what was taken off is back on, and the retest stands.",
  },
]; // prettier-ignore
