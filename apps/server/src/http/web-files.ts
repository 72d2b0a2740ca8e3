import express, { type Express } from "express";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";

const HASHED = /-[A-Z0-9]{8}\.(js|css|woff2?)$/;

/** The built web app: hashed files for a year, the page itself always fresh and with its nonce. */
export function serveWebFiles(app: Express, folder: string): void {
  const index = join(folder, "index.html");
  if (!existsSync(index)) return;
  const page = readFileSync(index, "utf8");
  app.use(
    express.static(folder, {
      index: false,
      setHeaders: (response, path) => {
        response.set("Cache-Control", HASHED.test(path) ? "public, max-age=31536000, immutable" : "no-cache");
      },
    }),
  );
  app.get(/^\/(?!api\/)[^.]*$/, (_, response) => {
    response.set("Cache-Control", "no-store");
    response.type("html").send(page.replaceAll("__NONCE__", String(response.locals["nonce"])));
  });
}
