import Database from "better-sqlite3";
import { execFileSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { draws, requests, unlike } from "../apps/server/src/testing/requests";
import { soakPeople } from "./soak-people";
import { Served, type Answer } from "./served";

/** Nothing takes longer than this, ms. */
const LONGEST_MS = 2000;
const CLIENTS = 8;

/** A demo shop of its own, its machines hurried. */
const start = (folder: string): Promise<Served> => Served.start(folder, "--demo", "--simulation-speed", "50");

const fresh = (): string => mkdtempSync(join(tmpdir(), "iron-soak-"));
const file = (folder: string) => new Database(join(folder, "iron-patience.sqlite"), { readonly: true });

/** Requests made from the OpenAPI document, valid and spoilt, by eight clients at once. */
async function manyRequests(count: number): Promise<boolean> {
  const folder = fresh();
  const server = await start(folder);
  const next = requests(Number(process.env["SOAK_SEED"] ?? "7"));
  const statuses = new Map<number, number>();
  const wrong: string[] = [];
  let [sent, longestMs, longest] = [0, 0, ""];
  const client = async (): Promise<void> => {
    while (sent < count && wrong.length < 20) {
      sent += 1;
      const asked = next();
      const sentAt = performance.now();
      const answer = await server.ask(asked.method, { path: asked.path, headers: asked.headers, body: asked.body });
      const took = performance.now() - sentAt;
      if (took > longestMs) [longestMs, longest] = [took, `${asked.method} ${asked.path}`];
      statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
      const why = unlike(asked, answer);
      if (why) wrong.push(why);
    }
  };
  await Promise.all(Array.from({ length: CLIENTS }, client));
  await server.end("SIGTERM");
  const db = file(folder);
  const sound = db.pragma("integrity_check", { simple: true }) === "ok";
  db.close();
  rmSync(folder, { recursive: true });
  const told = [...statuses].sort(([a], [b]) => a - b).map(([s, n]) => `${s}: ${n}`);
  console.log(
    `${sent} requests by ${CLIENTS} clients: ${told.join(", ")}; the longest ${longestMs.toFixed(0)} ms (${longest}); data ${sound ? "sound" : "damaged"}`,
  );
  for (const w of wrong) console.log(w);
  return wrong.length === 0 && sound && longestMs < LONGEST_MS;
}

/** One of three kinds of write: its table, its address and what is sent. */
function writeOf(
  n: number,
  { key, point, k }: { readonly key: string; readonly point: number; readonly k: number },
): readonly [string, string, object] {
  if (n === 0)
    return [
      "lube_visit",
      `/api/lube-points/${point}/visits`,
      { key, found: "right", dose: 1, glitter: false, words: "", again: true },
    ];
  if (n === 1) return ["job_event", "/api/jobs/1/acts", { kind: "note", step: "", words: "heard", key }];
  return ["axis_event", `/api/axes/${1 + (k % 5)}/events`, { kind: "note", text: key, at: new Date().toISOString() }];
}

/** How often each key stands in each table. */
function keptIn(db: Database.Database): Readonly<Record<string, ReadonlyMap<string, number>>> {
  const columns = { lube_visit: "key", job_event: "key", axis_event: "text" } as const;
  return Object.fromEntries(
    Object.entries(columns).map(([table, column]) => {
      const rows = db.prepare(`select ${column} k, count(*) n from ${table} group by ${column}`).all();
      return [table, new Map((rows as { k: string; n: number }[]).map((r) => [r.k, r.n]))];
    }),
  );
}

/** Killed in the middle of mixed writes: whatever was acknowledged is there, and there once. */
async function kills(count: number): Promise<boolean> {
  const folder = fresh();
  const draw = draws(11);
  const acknowledged = new Map<string, string>();
  let [lost, twice, damaged] = [0, 0, 0];
  const started: number[] = [];
  for (let k = 0; k < count; k += 1) {
    const at = performance.now();
    const server = await start(folder);
    started.push(performance.now() - at);
    let alive = true;
    const writer = async (n: number): Promise<void> => {
      while (alive) {
        const key = randomUUID();
        const [table, path, body] = writeOf(n, { key, point: 1 + Math.floor(draw() * 20), k });
        try {
          const answer = await server.send("POST", path, body);
          if (answer.status === 201 || (answer.status === 200 && table === "job_event")) acknowledged.set(key, table);
        } catch {
          return;
        }
      }
    };
    const writers = [0, 1, 2].map(writer);
    // In the middle of work, not of the start: once something was acknowledged.
    const before = acknowledged.size;
    for (let waits = 0; acknowledged.size === before && waits < 300; waits += 1)
      await new Promise((go) => setTimeout(go, 10));
    await new Promise((go) => setTimeout(go, 20 + draw() * 120));
    await server.end("SIGKILL");
    alive = false;
    await Promise.all(writers);
    if (k % 50 < 49 && k < count - 1) continue;
    const db = file(folder);
    if (db.pragma("integrity_check", { simple: true }) !== "ok") damaged += 1;
    const found = keptIn(db);
    for (const [key, table] of acknowledged) {
      const n = found[table].get(key) ?? 0;
      if (n === 0) lost += 1;
      if (n > 1) twice += 1;
    }
    db.close();
  }
  const again = await start(folder);
  await again.end("SIGTERM");
  rmSync(folder, { recursive: true });
  started.sort((a, b) => a - b);
  console.log(
    `${count} kills in mixed writes: ${acknowledged.size} acknowledged, ${lost} lost, ${twice} kept twice, ${damaged} damaged; a start takes ${started[started.length >> 1].toFixed(0)} ms`,
  );
  return lost + twice + damaged === 0 && acknowledged.size > count;
}

/** A second server on one folder is refused, and says who holds it. */
async function secondServer(): Promise<boolean> {
  const folder = fresh();
  const first = await start(folder);
  const said = await start(folder).then(
    () => "it started",
    (error: unknown) => String(error),
  );
  await first.end("SIGKILL");
  const after = await start(folder);
  await after.end("SIGTERM");
  rmSync(folder, { recursive: true });
  console.log(`a second server on one folder: ${said.trim().split("\n")[0]}; after a kill the next starts`);
  return !said.includes("it started");
}

/** A disk of its own that fills up: refused in words, reads go on, and with room again it is kept. As root only. */
async function fullDisk(): Promise<boolean> {
  if (process.getuid?.() !== 0) {
    console.log("a full disk of its own: left out, it needs root (npm test does it by max_page_count)");
    return true;
  }
  const folder = fresh();
  execFileSync("mount", ["-t", "tmpfs", "-o", "size=24m", "tmpfs", folder]);
  try {
    const server = await start(folder);
    const ballast = join(folder, "ballast");
    try {
      writeFileSync(ballast, Buffer.alloc(24_000_000));
    } catch {
      // As much of it as there was room for: that is what it is for.
    }
    const note = {
      kind: "note",
      text: "x".repeat(450),
      at: "2026-03-01T08:00:00.000Z",
    };
    let refused: Answer | null = null;
    for (let i = 0; i < 5000 && !refused; i += 1) {
      const answer = await server.send("POST", "/api/axes/1/events", note);
      if (answer.status !== 201) refused = answer;
    }
    const read = await server.ask("GET", { path: "/api/floor" });
    rmSync(ballast);
    const kept = await server.send("POST", "/api/axes/1/events", note);
    await server.end("SIGTERM");
    console.log(
      `a full disk of 24 MB: ${refused?.status ?? "never"} (${refused?.text.slice(0, 120) ?? ""}), reading meanwhile ${read.status}, with room again ${kept.status}`,
    );
    return refused?.status === 503 && read.status === 200 && kept.status === 201;
  } finally {
    execFileSync("umount", ["-l", folder]);
    rmSync(folder, { recursive: true, force: true });
  }
}

/**
 * `npm run soak -- [requests] [kills] [minutes]`, or `-- people [minutes]` for those parts alone: stops by itself;
 * non-zero when anything was not as it should be.
 */
async function main(): Promise<void> {
  const [many = "100000", times = "1000", minutes = "10"] = process.argv.slice(2);
  const good =
    many === "people"
      ? [await soakPeople(times === "1000" ? 10 : Number(times))]
      : [
          ...[await secondServer(), await fullDisk(), await manyRequests(Number(many)), await kills(Number(times))],
          await soakPeople(Number(minutes)),
        ];
  process.exitCode = good.every(Boolean) ? 0 : 1;
}

void main();
