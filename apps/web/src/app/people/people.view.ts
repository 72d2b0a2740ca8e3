import type { Person, Role } from "@iron/contract";

/** What each role may, in words. */
export const ROLE_SAYS: Readonly<Record<Role, string>> = {
  look: "look only",
  technician: "measure, diagnose, mend and sign",
  planner: "a technician’s work, and plan: machines, points, prices, rules",
  keeper: "everything, and keep people and the server",
};

/** How somebody stands at the door, in words. */
export function standsSaid({ secret, lockedUntil, retiredAt }: Person, timeOf: (instant: string) => string): string {
  if (retiredAt) return `retired ${timeOf(retiredAt)}`;
  if (lockedUntil) return `too many wrong tries: waits until ${timeOf(lockedUntil)}`;
  if (secret === "given") return "has not chosen a PIN yet";
  return secret === "none" ? "has no PIN" : "";
}

const SYSTEMS = [
  [/iPad/, "iPad"],
  [/iPhone/, "iPhone"],
  [/Android/, "Android"],
  [/Windows/, "Windows"],
  [/Mac OS X/, "Mac"],
  [/Linux/, "Linux"],
] as const;
const BROWSERS = [
  [/Firefox\//, "Firefox"],
  [/Edg\//, "Edge"],
  [/Chrome\//, "Chrome"],
  [/Safari\//, "Safari"],
] as const;

/** A device as one calls it, from how its browser names itself. */
export function deviceSaid(agent: string): string {
  const named = (from: readonly (readonly [RegExp, string])[]): string =>
    from.find(([is]) => is.test(agent))?.[1] ?? "";
  return [named(BROWSERS), named(SYSTEMS)].filter(Boolean).join(" on ") || "unknown device";
}
