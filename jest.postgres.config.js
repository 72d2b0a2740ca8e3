const { projects } = require("./jest.config.js");

const server = projects.find((p) => p.displayName === "server");

/** Of a file, of files beside it, or of no store at all. */
const NO_STORE = [
  "demo/demo-shop",
  "http/event-stream",
  "http/web-files",
  "network/certificate",
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
 * two-stores.spec.ts asks of both.
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

/** The server’s tests on a PostgreSQL server: `npm run test:postgres`. */
module.exports = {
  testTimeout: 120_000,
  projects: [
    {
      ...server,
      displayName: "server on PostgreSQL",
      testPathIgnorePatterns: [...NO_STORE, ...SUMS].map((name) => `/src/${name}\\.spec\\.ts$`),
    },
  ],
};
