import { createWriteStream, existsSync } from "node:fs";
import { basename, resolve } from "node:path";
import { pipeline } from "node:stream/promises";
import { People } from "./people/people";
import { systemClock } from "./shop/clock";
import { contentsOf, makeBackup, restoreBackup, thinOut, type Contents } from "./store/backups";
import { openStore } from "./store/store";
import { holdFolder } from "./store/folder-lock";
import { StartError } from "./store/start-error";
import { bringIn } from "./whole/bring-in";
import { shopZip } from "./whole/take-out";

const say = (message: string): void => {
  process.stdout.write(`${message}\n`);
};

const counted = (c: Contents): string =>
  `${c.machines} machines, ${c.tests} tests, ${c.cases} cases, ${c.jobs} jobs, ${c.visits} lubrication visits; last kept ${c.lastAt ?? "never"}`;

/**
 * A keeper who forgot the passphrase, and no other keeper: whoever may stop the server and reach its folder gives a PIN to
 * begin with. The sessions of before end.
 */
async function letIn(data: string, name: string | null): Promise<void> {
  if (!name) throw new StartError("Say who: npm run let-in -- NAME.");
  const lock = holdFolder(data, "npm run let-in");
  try {
    const db = await openStore(data);
    const people = new People(db, systemClock, true);
    const row = (await people.active()).find((p) => p.name.toLowerCase() === name.toLowerCase());
    if (!row) throw new StartError(`Nobody called ${name} can sign in here.`);
    const given = await people.give(row.id, { by: "the console", address: "" });
    await db.destroy();
    say(`${row.name} comes in with ${given}, and chooses a PIN or passphrase then.`);
  } finally {
    lock.release();
  }
}

/** Everything as one zip, from a copy that nobody writes to. */
async function takeOutTo(data: string, to?: string): Promise<void> {
  const now = new Date();
  const target = resolve(to ?? `iron-patience-shop-${now.toISOString().slice(0, 10)}.zip`);
  if (existsSync(target)) throw new StartError(`There is a file ${target} already: name another with --to.`);
  const out = await shopZip(data, now);
  await pipeline(out, createWriteStream(target));
  say(`Everything taken out: ${target}`);
}

/**
 * What is done to a data folder from the command line: `backup`, beside a running server or without
 * one, and `restore FILE`, which shows first what it would do and does it with `--yes`.
 * @throws StartError in words
 */
export async function tend(options: {
  readonly command: string;
  readonly file: string | null;
  readonly data: string;
  readonly to?: string | undefined;
  readonly yes: boolean;
}): Promise<void> {
  const { command, file, data, to, yes } = options;
  if (command === "backup") {
    const path = await makeBackup(data, new Date(), to);
    if (!to) thinOut(data, new Date());
    say(`Backup made and checked: ${path}`);
    say(`It holds ${counted(contentsOf(path))}.`);
    return;
  }
  if (command === "let-in") {
    await letIn(data, file);
    return;
  }
  if (command === "take-out") {
    await takeOutTo(data, to);
    return;
  }
  if (command === "bring-in") {
    if (!file) throw new StartError("Say which file: npm run bring-in -- FILE.");
    say(`Brought into ${data}: ${counted(await bringIn(resolve(file), data, new Date()))}.`);
    say("PINs do not come along: npm run let-in -- NAME gives a keeper one to begin with.");
    return;
  }
  if (command !== "restore")
    throw new StartError(
      `There is no command “${command}”: backup, restore FILE, let-in NAME, take-out, or bring-in FILE.`,
    );
  if (!file) throw new StartError("Say which backup: npm run restore -- FILE.");
  const from = resolve(file);
  say(`${basename(from)} holds ${counted(contentsOf(from))}.`);
  if (!yes) {
    say(
      `Nothing was changed. It takes the place of the shop’s data in ${data}, which is kept aside, with: npm run restore -- ${file} --yes`,
    );
    return;
  }
  const aside = await restoreBackup(from, data, new Date());
  say(`Restored into ${data}.`);
  if (aside) say(`What was there before lies in ${aside}.`);
}
