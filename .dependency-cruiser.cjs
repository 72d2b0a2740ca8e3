/**
 * Which floor and which room may import what; tests, the studies of coverage and what is made for tests
 * may reach anywhere. `npm run floors` proves it and draws docs/floors.md anew.
 */
const FREE = "\\.(spec|testing)\\.ts$|/testing/|/core/src/coverage/|/core/src/index\\.ts$";
const core = (...rooms) => `^packages/core/src/(${rooms.join("|")})/`;

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    {
      name: "no-circle",
      comment: "No circle, type imports included.",
      severity: "error",
      from: {},
      to: { circular: true },
    },
    {
      name: "floors",
      comment: "core knows nobody; contract knows core; server and web know both, and not each other.",
      severity: "error",
      from: { path: "^(packages/core|packages/contract|apps/server|apps/web)/" },
      to: {
        path: "^(packages|apps)/",
        pathNot: "^(packages/core/src/index\\.ts|packages/contract/src/index\\.ts|$1/)",
      },
    },
    {
      name: "core-alone",
      severity: "error",
      from: { path: "^packages/core/src/" },
      to: { path: "^packages/contract/" },
    },
    {
      name: "quantity-lowest",
      severity: "error",
      from: { path: core("quantity"), pathNot: FREE },
      to: { path: "^packages/core/src/", pathNot: core("quantity") },
    },
    {
      name: "machine-on-quantity",
      severity: "error",
      from: { path: core("machine"), pathNot: FREE },
      to: { path: "^packages/core/src/", pathNot: core("machine", "quantity") },
    },
    {
      name: "sums-on-machine",
      severity: "error",
      from: { path: core("sums"), pathNot: FREE },
      to: { path: "^packages/core/src/", pathNot: core("sums", "machine", "quantity") },
    },
    {
      name: "measure-on-sums",
      comment: "A test done by hand takes its name, minutes and what spoils it from the catalogue of tests.",
      severity: "error",
      from: { path: core("measure"), pathNot: FREE },
      to: {
        path: "^packages/core/src/",
        pathNot: [core("measure", "sums", "machine", "quantity"), "diagnosis/(tests|locate-test)\\.ts$"],
      },
    },
    {
      name: "rooms-side-by-side",
      comment:
        "Diagnosis, job, lubrication, shop and stock do not know each other; they meet in the server and the web.",
      severity: "error",
      from: { path: core("(diagnosis|job|lubrication|shop|stock)"), pathNot: FREE },
      to: { path: core("diagnosis", "job", "lubrication", "shop", "stock"), pathNot: "^packages/core/src/$1/" },
    },
    {
      name: "sound-on-machine",
      comment: "What is worked out of a recording knows the axis it is of, and nothing of causes or jobs.",
      severity: "error",
      from: { path: core("sound"), pathNot: FREE },
      to: { path: "^packages/core/src/", pathNot: core("sound", "machine", "quantity") },
    },
    {
      name: "simulate-apart",
      comment: "The virtual machine never uses an analysis' formulae, and no analysis the machine's.",
      severity: "error",
      from: { path: "^packages/core/src/", pathNot: [core("simulate"), FREE] },
      to: { path: core("simulate") },
    },
    {
      name: "simulate-on-machine",
      severity: "error",
      from: { path: core("simulate"), pathNot: FREE },
      to: {
        path: "^packages/core/src/",
        pathNot: [core("simulate", "machine", "quantity", "measure"), "sums/screw/steel\\.ts$"],
      },
    },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.base.json" },
    doNotFollow: { path: "node_modules" },
    exclude: { path: "node_modules|/dist/" },
    combinedDependencies: true,
  },
};
