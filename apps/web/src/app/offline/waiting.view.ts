import { fileOf, type Held } from "../data/waiting";
import { sentText } from "../shared/sent.text";

/** Where something belongs, by its address: in words, and the page that shows it. */
interface Belongs {
  readonly to: string;
  readonly path: string;
}

const KINDS: readonly (readonly [RegExp, (id: string) => Belongs])[] = [
  [/^\/api\/jobs\/(\d+)\/photos/, (id) => ({ to: `Photo for job ${id}`, path: `/jobs/${id}` })],
  [/^\/api\/jobs\/(\d+)\//, (id) => ({ to: `Job ${id}`, path: `/jobs/${id}` })],
  [/^\/api\/lube-points\/(\d+)\/photos/, (id) => ({ to: `Photo of point ${id}`, path: `/points/${id}` })],
  [/^\/api\/lube-points\/(\d+)\//, (id) => ({ to: `Visit to point ${id}`, path: `/points/${id}` })],
  [/^\/api\/axes\/(\d+)\/sounds/, (id) => ({ to: `Recording of axis ${id}`, path: "" })],
];

export function belongs(address: string): Belongs {
  for (const [pattern, words] of KINDS) {
    const id = pattern.exec(address)?.[1];
    if (id !== undefined) return words(id);
  }
  return { to: address, path: "" };
}

/** What it says, in names and values; a picture says its caption. */
export function saysOf({ address, body }: Pick<Held, "address" | "body">): string {
  if (typeof body === "string") return sentText(body);
  return new URLSearchParams(address.split("?")[1] ?? "").get("caption") ?? "";
}

/** A person whose work waits, and why it does. */
export interface Waits {
  readonly by: string;
  readonly why: string;
  /** Nobody can send it any more: it may be let go. */
  readonly stuck: boolean;
  readonly items: readonly Held[];
}

export interface AtTheDoor {
  /** Who has to sign in before their part of it goes. */
  readonly waitsFor: readonly string[];
  /** Who can sign in; null: not known. */
  readonly names: readonly string[] | null;
}

/** What waits, by whose it is. */
export function waitsOf(held: readonly Held[], { waitsFor, names }: AtTheDoor): readonly Waits[] {
  return [...new Set(held.map((one) => one.by))].map((by) => {
    const stuck = waitsFor.includes(by) && names !== null && !names.includes(by);
    const items = held.filter((one) => one.by === by);
    const after = items.find((one) => one.after !== null)?.after ?? null;
    const why = stuck
      ? `${by} no longer signs in here, and nothing proves that this is theirs. It goes only if the keeper calls ${by} back and ${by} signs in. Else save each as a file, let whoever knows of the work enter it again, then let it go.`
      : waitsFor.includes(by)
        ? `It goes when ${by} signs in on this device.`
        : after !== null
          ? `It stands on what ${after} did before it, and goes by itself after that.`
          : "It goes by itself as soon as the server answers.";
    return { by, why, stuck, items };
  });
}

/** What is saved of one: as it would have been sent, and what belongs to it. */
export function filesOf({ key, by, address, body, seal, file }: Held): readonly (readonly [Blob, string])[] {
  const name = `waiting-${key.slice(0, 8)}`;
  const sent = { by, address, ...(typeof body === "string" ? { body: JSON.parse(body) as unknown } : {}), seal };
  const words = fileOf(sent);
  const more = file ?? (typeof body === "string" ? null : body);
  return [[words, `${name}.json`], ...(more ? [[more, `${name}.${endingOf(more)}`] as const] : [])];
}

/** The usual ending of a file of its kind. */
export function endingOf({ type }: Blob): string {
  return { "application/json": "json", "image/jpeg": "jpg", "image/png": "png", "audio/wav": "wav" }[type] ?? "wav";
}
