import type { Floor } from "@iron/contract";

/** A machine, or one axis of it, and where it stands. */
export interface Found {
  readonly label: string;
  readonly where: string;
  readonly link: string;
}

/** More than this nobody reads through: a further letter is typed sooner. */
const MOST = 8;

/** Machines and axes that all words of a text are about: by name, bay or letter. Machines come first. */
export function findOn(floor: Pick<Floor, "machines">, text: string): readonly Found[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  const about = (of: readonly string[]): boolean =>
    words.every((w) => of.some((part) => part.toLowerCase().startsWith(w)));
  const machines = floor.machines
    .filter((m) => about([...m.nickname.split(/\s+/), m.nickname, m.bay]))
    .map((m): Found => ({ label: m.nickname, where: `bay ${m.bay}`, link: `/machines/${m.id}` }));
  const axes = floor.machines.flatMap((m) =>
    m.axes
      .filter((a) => about([...m.nickname.split(/\s+/), m.nickname, m.bay, a.letter]))
      .map((a): Found => ({
        label: `${m.nickname} ${a.letter}`,
        where: `bay ${m.bay}`,
        link: `/machines/${m.id}/axes/${a.id}`,
      })),
  );
  return [...machines, ...axes].slice(0, MOST);
}
