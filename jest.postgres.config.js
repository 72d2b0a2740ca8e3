const { projects } = require("./jest.config.js");

const server = projects.find((p) => p.displayName === "server");

/** The server’s tests on a PostgreSQL server: `npm run test:postgres`. */
module.exports = {
  testTimeout: 120_000,
  maxWorkers: "100%",
  projects: [
    {
      ...server,
      displayName: "server on PostgreSQL",
      testMatch: ["**/*.suite.ts"],
    },
  ],
};
