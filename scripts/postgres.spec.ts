import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";

const ROOT = join(__dirname, "..", "apps", "server", "src");

/** Of a file, of files beside it, or of no store at all. */
const NO_STORE = [
  "demo/demo-shop",
  "http/event-stream",
  "http/web-files",
  "network/certificate",
  "people/sign-in-limit",
  "start-options",
  "store/until-written",
  "testing/backups",
  "testing/full-disk",
  "testing/guard",
  "testing/recovery",
  "testing/start",
  "testing/upgrade",
  "whole/whole-shop",
];
/**
 * Nine tenths of their time are sums, hashes of PINs or drawing, the same whatever the store; what they ask of it,
 * two-stores.suite.ts asks of both.
 */
const SUMS = [
  "diagnosis/cases",
  "diagnosis/learned",
  "job/circle-retest",
  "job/jobs",
  "lubrication/late-risk",
  "people/people",
  "prove/circles",
  "prove/corrections",
  "sound/heard",
  "sound/sounds-well",
  "testing/soak",
];

const specs = readdirSync(ROOT, { recursive: true, encoding: "utf8" })
  .filter((name) => name.endsWith(".spec.ts"))
  .map((name) =>
    relative(".", name)
      .replace(/\.spec\.ts$/, "")
      .replaceAll("\\", "/"),
  );
const onBoth = ["one", "two"].flatMap((n) =>
  [
    ...readFileSync(join(ROOT, "testing", `postgres-${n}.suite.ts`), "utf8").matchAll(
      /^import "(\.\.?)\/(.+)\.spec";$/gm,
    ),
  ].map(([, from, name]) => (from === "." ? `testing/${name}` : name)),
);

test("every test of the server runs on PostgreSQL too, or it is said why not; none is named that is not there", () => {
  expect([...onBoth, ...NO_STORE, ...SUMS].sort()).toEqual([...specs].sort());
});
