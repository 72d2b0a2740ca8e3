import { ensureBuilt, ensureInstalled } from "./ensure.mjs";

ensureInstalled();
await ensureBuilt({ force: true });
