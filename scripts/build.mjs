import { ensureBuilt, ensurePackages } from "./ensure.mjs";

ensurePackages();
await ensureBuilt({ force: true });
