import type { Express } from "express";
import expressStaticGzip from "express-static-gzip";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";

const HASHED = /-[A-Z0-9]{8}\.(js|css|woff2?)(\.(br|gz))?$/;

/**
 * The built web app: hashed files for a year, in the packed copies the build laid beside them; the page itself always
 * fresh and with its nonce.
 */
export function serveWebFiles(app: Express, folder: string): void {
  const index = join(folder, "index.html");
  if (!existsSync(index)) return;
  const page = readFileSync(index, "utf8");
  // The package answers a garbled address in bare text; thrown here it is refused in the form of all refusals.
  app.use((request, _, next) => {
    decodeURIComponent(request.path);
    next();
  });
  app.use(
    expressStaticGzip(folder, {
      enableBrotli: true,
      orderPreference: ["br", "gzip"],
      index: false,
      serveStatic: {
        setHeaders: (response, path) => {
          const control = HASHED.test(path) ? "public, max-age=31536000, immutable" : "no-cache";
          response.setHeader("Cache-Control", control);
        },
      },
    }),
  );
  // Also under the address by which a browser keeps it for when no server answers: see scripts/offline-shell.mjs.
  app.get([/^\/(?!api\/)[^.]*$/, /^\/shell-[\da-f]{12}\.html$/], (_, response) => {
    response.set("Cache-Control", "no-store");
    response.type("html").send(page.replaceAll("__NONCE__", String(response.locals["nonce"])));
  });
}
