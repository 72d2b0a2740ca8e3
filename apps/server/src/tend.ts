import { basename, resolve } from "node:path";
import { contentsOf, makeBackup, restoreBackup, thinOut, type Contents } from "./store/backups";
import { StartError } from "./store/start-error";

const say = (message: string): void => {
  process.stdout.write(`${message}\n`);
};

const counted = (c: Contents): string =>
  `${c.machines} machines, ${c.tests} tests, ${c.cases} cases, ${c.jobs} jobs, ${c.visits} lubrication visits; last kept ${c.lastAt ?? "never"}`;

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
  if (command !== "restore") throw new StartError(`There is no command “${command}”: backup, or restore FILE.`);
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
