import type { Routes } from "@angular/router";
import { came } from "./data/arrival";

export const routes: Routes = [
  { path: "", pathMatch: "full", redirectTo: "floor" },
  {
    path: "floor",
    title: "Floor · Iron Patience",
    loadComponent: () => came(import("./places/floor/floor")).then((m) => m.FloorPlace),
  },
  {
    path: "shop",
    title: "Shop · Iron Patience",
    loadComponent: () => came(import("./places/shop/shop")).then((m) => m.ShopPlace),
  },
  {
    path: "machines/new",
    title: "New machine · Iron Patience",
    loadComponent: () => came(import("./places/machine/new-machine")).then((m) => m.NewMachine),
  },
  {
    path: "machines/:machineId",
    title: "Machine · Iron Patience",
    loadComponent: () => came(import("./places/machine/machine")).then((m) => m.MachinePlace),
  },
  {
    path: "machines/:machineId/axes/:axisId",
    loadComponent: () => came(import("./places/axis/axis-frame")).then((m) => m.AxisFrame),
    children: [
      { path: "", pathMatch: "full", redirectTo: "measure" },
      {
        path: "ask",
        title: "Ask · Iron Patience",
        loadComponent: () => came(import("./places/case/ask")).then((m) => m.AskStation),
      },
      {
        path: "locate",
        title: "Locate · Iron Patience",
        loadComponent: () => came(import("./places/case/locate")).then((m) => m.LocateStation),
      },
      {
        path: "locate/:testId",
        title: "Test · Iron Patience",
        loadComponent: () => came(import("./places/case/test-form")).then((m) => m.TestForm),
      },
      {
        path: "measure",
        title: "Measure · Iron Patience",
        loadComponent: () => came(import("./places/measure/measure")).then((m) => m.MeasureStation),
      },
      {
        path: "measure/new/:kind",
        title: "Set up a test · Iron Patience",
        loadComponent: () => came(import("./places/measure/set-up")).then((m) => m.SetUpTest),
      },
      {
        path: "import",
        title: "Import readings · Iron Patience",
        loadComponent: () => came(import("./places/measure/import-readings")).then((m) => m.ImportReadings),
      },
      {
        path: "runs/:runId",
        title: "Test · Iron Patience",
        loadComponent: () => came(import("./places/run/run")).then((m) => m.RunPlace),
      },
      {
        path: "fix",
        title: "Fix · Iron Patience",
        loadComponent: () => came(import("./places/job/fix-station")).then((m) => m.FixStation),
      },
      {
        path: "prove",
        title: "Prove · Iron Patience",
        loadComponent: () => came(import("./places/job/prove-station")).then((m) => m.ProveStation),
      },
      {
        path: "keep",
        title: "Keep · Iron Patience",
        loadComponent: () => came(import("./places/rounds/keep-station")).then((m) => m.KeepStation),
      },
      {
        path: "set",
        title: "Set · Iron Patience",
        loadComponent: () => came(import("./places/set/set-station")).then((m) => m.SetStation),
      },
      {
        path: "series/:seriesId",
        title: "Readings · Iron Patience",
        loadComponent: () => came(import("./places/set/series-place")).then((m) => m.SeriesPlace),
      },
      {
        path: "history",
        title: "History · Iron Patience",
        loadComponent: () => came(import("./places/history/history")).then((m) => m.HistoryPlace),
      },
      {
        path: "setup",
        title: "Axis · Iron Patience",
        loadComponent: () => came(import("./places/axis/axis-setup")).then((m) => m.AxisSetup),
      },
    ],
  },
  {
    path: "rounds",
    title: "Rounds · Iron Patience",
    loadComponent: () => came(import("./places/rounds/rounds-place")).then((m) => m.RoundsPlace),
  },
  {
    path: "rounds/half-year",
    title: "Half a year · Iron Patience",
    loadComponent: () => came(import("./places/rounds/half-year")).then((m) => m.HalfYear),
  },
  {
    path: "rounds/paper",
    title: "Paper · Iron Patience",
    loadComponent: () => came(import("./places/rounds/paper-entry")).then((m) => m.PaperEntry),
  },
  {
    path: "rounds/sheet/:date",
    title: "Round on paper · Iron Patience",
    loadComponent: () => came(import("./places/rounds/round-sheet")).then((m) => m.RoundSheet),
  },
  {
    path: "rounds/labels",
    title: "Labels · Iron Patience",
    loadComponent: () => came(import("./places/rounds/labels-page")).then((m) => m.LabelsPage),
  },
  {
    path: "rounds/meters",
    title: "Hour meters · Iron Patience",
    loadComponent: () => came(import("./places/rounds/meters-page")).then((m) => m.MetersPage),
  },
  {
    path: "rounds/lubricants",
    title: "Lubricants · Iron Patience",
    loadComponent: () => came(import("./places/rounds/lubricants-page")).then((m) => m.LubricantsPage),
  },
  {
    path: "rounds/keeping",
    title: "Days and rules · Iron Patience",
    loadComponent: () => came(import("./places/rounds/keeping-page")).then((m) => m.KeepingPage),
  },
  {
    path: "points/:pointId",
    title: "Lubrication point · Iron Patience",
    loadComponent: () => came(import("./places/rounds/point-page")).then((m) => m.PointPage),
  },
  {
    path: "jobs",
    title: "Jobs · Iron Patience",
    loadComponent: () => came(import("./places/job/jobs-place")).then((m) => m.JobsPlace),
  },
  {
    path: "jobs/:jobId",
    title: "Job · Iron Patience",
    loadComponent: () => came(import("./places/job/job-place")).then((m) => m.JobPlace),
  },
  {
    path: "jobs/:jobId/kit",
    title: "Kit of a job · Iron Patience",
    loadComponent: () => came(import("./places/job/kit-page")).then((m) => m.KitPage),
  },
  {
    path: "jobs/:jobId/sheet",
    title: "Job sheet · Iron Patience",
    loadComponent: () => came(import("./places/job/sheet-page")).then((m) => m.SheetPage),
  },
  {
    path: "sums",
    title: "Sums · Iron Patience",
    loadComponent: () => came(import("./places/sums/sums-place")).then((m) => m.SumsPlace),
  },
  {
    path: "sums/:sumId",
    title: "Sums · Iron Patience",
    loadComponent: () => came(import("./places/sums/sums-place")).then((m) => m.SumsPlace),
  },
  {
    path: "cases",
    title: "Cases · Iron Patience",
    loadComponent: () => came(import("./places/case/cases-place")).then((m) => m.CasesPlace),
  },
  {
    path: "cases/:caseId",
    title: "Finding · Iron Patience",
    loadComponent: () => came(import("./places/case/finding-page")).then((m) => m.FindingPage),
  },
  {
    path: "causes",
    title: "Causes · Iron Patience",
    loadComponent: () => came(import("./places/case/knowledge-place")).then((m) => m.KnowledgePlace),
  },
  {
    path: "**",
    title: "Not here · Iron Patience",
    loadComponent: () => came(import("./places/not-here")).then((m) => m.NotHere),
  },
];
