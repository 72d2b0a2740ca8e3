import { requireBound } from "../quantity";

/**
 * One link of a chain of massless parts: first a dead band, then a spring. It pulls the part behind
 * it, which Coulomb friction (and perhaps gravity) holds.
 */
export interface ElasticLink {
  readonly id: string;
  /** Full width of the clearance, mm. */
  readonly deadBandMm: number;
  /** Spring rate once the clearance is taken up, N/mm. */
  readonly stiffnessNPerMm: number;
  /** Coulomb friction on the part behind this link, N. */
  readonly frictionN: number;
  /** Steady force on that part that the link must hold, N; positive pulls it towards minus. */
  readonly loadN: number;
}

/** A monotone force–place graph: vertices in order, horizontal beyond both ends. */
interface Vertex {
  readonly x: number;
  readonly f: number;
}

function checkLink(link: ElasticLink): void {
  requireBound({ deadBandMm: link.deadBandMm }, link.deadBandMm >= 0, "zero or more");
  requireBound({ stiffnessNPerMm: link.stiffnessNPerMm }, link.stiffnessNPerMm > 0, "above zero");
  requireBound({ frictionN: link.frictionN }, link.frictionN >= 0, "zero or more");
}

/** How much a link is stretched when it carries force `f`: half its dead band plus its spring. */
function stretch(link: ElasticLink, f: number): number {
  return (Math.sign(f) * link.deadBandMm) / 2 + f / link.stiffnessNPerMm;
}

/**
 * The force a link carries when stretched by `e`.
 * @param link - the link
 * @param e - stretch, mm
 * @returns N
 * @example linkForce({ id: "nut", deadBandMm: 0.02, stiffnessNPerMm: 1e5, frictionN: 0, loadN: 0 }, 0.02) // 1000
 */
export function linkForce(link: ElasticLink, e: number): number {
  const beyond = Math.abs(e) - link.deadBandMm / 2;
  return beyond > 0 ? Math.sign(e) * beyond * link.stiffnessNPerMm : 0;
}

/** The force needed at a part, as its place changes from `restingAt`, with what hangs behind it. */
function addFriction(behind: readonly Vertex[], link: ElasticLink, restingAt: number): Vertex[] {
  const shift = (v: Vertex, side: number): Vertex => ({
    x: v.x,
    f: v.f + link.loadN + side * link.frictionN,
  });
  const before = behind.filter((v) => v.x < restingAt);
  const after = behind.filter((v) => v.x > restingAt);
  const at = behind.filter((v) => v.x === restingAt);
  const low = at.length ? at[0].f : forceAt(behind, restingAt);
  const high = at.length ? at[at.length - 1].f : low;
  return [
    ...before.map((v) => shift(v, -1)),
    shift({ x: restingAt, f: low }, -1),
    shift({ x: restingAt, f: high }, 1),
    ...after.map((v) => shift(v, 1)),
  ];
}

/** The same graph seen through a link from the part in front of it. */
function throughLink(graph: readonly Vertex[], link: ElasticLink): Vertex[] {
  const seen: Vertex[] = [];
  const half = link.deadBandMm / 2;
  graph.forEach((v, i) => {
    const previous = graph[i - 1];
    if (previous && previous.f < 0 && v.f > 0) {
      const x = previous.x + ((v.x - previous.x) * -previous.f) / (v.f - previous.f);
      seen.push({ x: x - half, f: 0 }, { x: x + half, f: 0 });
    }
    if (v.f !== 0) seen.push({ x: v.x + stretch(link, v.f), f: v.f });
    else seen.push({ x: v.x - half, f: 0 }, { x: v.x + half, f: 0 });
  });
  // Vertices at zero force may now interleave; only their order matters, since the force is equal.
  return seen.sort((a, b) => a.f - b.f || a.x - b.x);
}

function forceAt(graph: readonly Vertex[], x: number): number {
  if (x <= graph[0].x) return graph[0].f;
  for (let i = 1; i < graph.length; i += 1) {
    const b = graph[i];
    if (x > b.x) continue;
    const a = graph[i - 1];
    return b.x === a.x ? b.f : a.f + ((b.f - a.f) * (x - a.x)) / (b.x - a.x);
  }
  return graph[graph.length - 1].f;
}

/** The places at which the graph passes through zero force; unbounded where it never does. */
function zeroPlaces(graph: readonly Vertex[]): readonly [number, number] {
  const last = graph.length - 1;
  const low = graph.findIndex((v) => v.f >= 0);
  if (low < 0) return [graph[last].x, Infinity];
  const high = graph.findLastIndex((v) => v.f <= 0);
  if (high < 0) return [-Infinity, graph[0].x];
  if (low <= high) {
    return [low === 0 ? -Infinity : graph[low].x, high === last ? Infinity : graph[high].x];
  }
  const [a, b] = [graph[high], graph[low]];
  const x = a.x + ((b.x - a.x) * -a.f) / (b.f - a.f);
  return [x, x];
}

/**
 * Moves the front of the chain to `command` and returns where each part then rests, mm.
 *
 * Quasi-static and exact for a one-way move: each part obeys Coulomb friction, each link is a play
 * element in series with a spring. The force graph of the chain is built from the table forwards
 * (friction adds forces, a link adds stretch), then solved from the command backwards. All memory
 * lies in the places of the parts, so partial reversals come out by themselves.
 *
 * @param links - from the motor to the table
 * @param places - where the parts rest now, one per link, command end first, mm
 * @param command - where the front is moved to, mm
 * @returns places of the parts, mm
 * @example
 * moveChain([{ id: "nut", deadBandMm: 0.02, stiffnessNPerMm: 1e5, frictionN: 0, loadN: 0 }], [0], 1)
 * // [0.99]
 */
export function moveChain(links: readonly ElasticLink[], places: readonly number[], command: number): number[] {
  links.forEach(checkLink);
  requireBound({ places: places.length }, places.length === links.length, `${links.length}, one a link`);
  const seenThrough: Vertex[][] = new Array(links.length);
  const atPart: Vertex[][] = new Array(links.length);
  let behind: Vertex[] = [{ x: 0, f: 0 }];
  for (let j = links.length - 1; j >= 0; j -= 1) {
    atPart[j] = addFriction(behind, links[j], places[j]);
    seenThrough[j] = throughLink(atPart[j], links[j]);
    behind = seenThrough[j];
  }
  const moved: number[] = [];
  let front = command;
  for (let j = 0; j < links.length; j += 1) {
    const force = forceAt(seenThrough[j], front);
    if (force !== 0) {
      front -= stretch(links[j], force);
    } else {
      const [low, high] = zeroPlaces(atPart[j]);
      const half = links[j].deadBandMm / 2;
      front = Math.min(Math.max(places[j], low, front - half), high, front + half);
    }
    moved.push(front);
  }
  return moved;
}

/**
 * Lost motion at the last part of a chain after a full reversal, mm: every link gives its dead band
 * (where its force changes sign) and its wind-up between the two sliding forces.
 * With friction F at the table only and series stiffness K this is Σ dead bands + 2F/K.
 * @param links - from the motor to the table
 * @returns mm
 * @example
 * chainLostMotion([{ id: "nut", deadBandMm: 0.02, stiffnessNPerMm: 1e5, frictionN: 200, loadN: 0 }]) // 0.024
 */
export function chainLostMotion(links: readonly ElasticLink[]): number {
  let friction = 0;
  let load = 0;
  let lost = 0;
  for (const link of [...links].reverse()) {
    friction += link.frictionN;
    load += link.loadN;
    lost += stretch(link, load + friction) - stretch(link, load - friction);
    if (load === 0 && friction === 0) lost += link.deadBandMm;
  }
  return lost;
}
