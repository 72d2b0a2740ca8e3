import { ensureChromium, ensureDriver, ensurePackages, ensurePdfText, ensurePostgres } from "./ensure.mjs";
import { postgresPrograms } from "./postgres.mjs";

// `node scripts/prepare.mjs packages`, `… driver`, `… programs`: one part of what a new machine needs.
const parts = {
  packages: ensurePackages,
  driver: ensureDriver,
  programs: () => {
    ensureChromium();
    ensurePdfText();
    ensurePostgres(() => postgresPrograms() !== null);
  },
};
for (const name of process.argv.slice(2)) await parts[name]();
