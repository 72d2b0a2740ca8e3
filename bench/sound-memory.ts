import { readFileSync } from "node:fs";
import { defaultAxis, type SoundPlan } from "@iron/core";
import { workSound } from "../apps/server/src/threads/sound";

/** Works one recording out, or only reads it, and prints how much was held at its height, kB. */
const [file = "", plan = "", how] = process.argv.slice(2);
const bytes = readFileSync(file);
if (how === "work") {
  const config = defaultAxis("vertical-centre", "X");
  const { result, why } = workSound({ bytes, config, plan: JSON.parse(plan) as SoundPlan });
  if (!result) throw new Error(why);
}
console.log(process.resourceUsage().maxRSS);
