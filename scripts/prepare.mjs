import { ensureChromium, ensureDriver, ensurePackages, ensurePdfText } from "./ensure.mjs";

// `node scripts/prepare.mjs packages`, `… driver`, `… programs`: one part of what a new machine needs.
const parts = {
  packages: ensurePackages,
  driver: ensureDriver,
  programs: () => {
    ensureChromium();
    ensurePdfText();
  },
};
for (const name of process.argv.slice(2)) await parts[name]();
