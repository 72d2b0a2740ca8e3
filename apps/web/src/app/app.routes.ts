import type { Data, Routes } from "@angular/router";
import type { OperationName } from "@iron/contract";
import { came } from "./data/arrival";

/** What a page is for: whoever may not do that is told, and sees nothing to fill in. */
const needs = (operation: OperationName): Data => ({ needs: operation });

export const routes: Routes = [
  { path: "", pathMatch: "full", redirectTo: "floor" },
  {
    path: "floor",
    title: "Floor · Iron Patience",
    loadComponent: () => came(import("./shop/floor/floor")).then((m) => m.FloorPlace),
  },
  {
    path: "shop",
    title: "Shop · Iron Patience",
    loadComponent: () => came(import("./shop/shop")).then((m) => m.ShopPage),
  },
  {
    path: "people",
    data: needs("people"),
    title: "People · Iron Patience",
    loadComponent: () => came(import("./people/people-page")).then((m) => m.PeoplePage),
  },
  {
    path: "record",
    data: needs("record"),
    title: "Record · Iron Patience",
    loadComponent: () => came(import("./people/record-page")).then((m) => m.RecordPage),
  },
  {
    path: "server",
    data: needs("server"),
    title: "Server · Iron Patience",
    loadComponent: () => came(import("./people/server-page")).then((m) => m.ServerPage),
  },
  {
    path: "waiting",
    title: "What waits · Iron Patience",
    loadComponent: () => came(import("./offline/waiting-page")).then((m) => m.WaitingPage),
  },
  {
    path: "trust",
    title: "Trust this server · Iron Patience",
    loadComponent: () => came(import("./people/trust-page")).then((m) => m.TrustPage),
  },
  {
    path: "machines/list",
    data: needs("machineList"),
    title: "Machines from a list · Iron Patience",
    loadComponent: () => came(import("./machine/machine-list")).then((m) => m.MachineListPage),
  },
  {
    path: "machines/new",
    data: needs("createMachine"),
    title: "New machine · Iron Patience",
    loadComponent: () => came(import("./machine/new-machine")).then((m) => m.NewMachine),
  },
  {
    path: "machines/:machineId/points",
    data: needs("usualPoints"),
    title: "Usual points · Iron Patience",
    loadComponent: () => came(import("./lubrication/usual-points")).then((m) => m.UsualPointsPage),
  },
  {
    path: "machines/:machineId/stands",
    title: "Square and level · Iron Patience",
    loadComponent: () => came(import("./prove/stands-page")).then((m) => m.StandsPage),
  },
  {
    path: "machines/:machineId/stands/levels",
    data: needs("keepGeometry"),
    title: "Levels · Iron Patience",
    loadComponent: () => came(import("./prove/levels-form")).then((m) => m.LevelsForm),
  },
  {
    path: "machines/:machineId/stands/:way",
    data: needs("keepGeometry"),
    title: "Out of square · Iron Patience",
    loadComponent: () => came(import("./prove/square-form")).then((m) => m.SquareForm),
  },
  {
    path: "machines/:machineId/circles",
    title: "Circles · Iron Patience",
    loadComponent: () => came(import("./prove/circles-page")).then((m) => m.CirclesPage),
  },
  {
    path: "machines/:machineId/circles/new",
    data: needs("startCircle"),
    title: "Take a circle · Iron Patience",
    loadComponent: () => came(import("./prove/circle-setup")).then((m) => m.CircleSetUp),
  },
  {
    path: "circles/:sessionId",
    title: "Circle · Iron Patience",
    loadComponent: () => came(import("./prove/circle-page")).then((m) => m.CirclePage),
  },
  {
    path: "machines/:machineId",
    title: "Machine · Iron Patience",
    loadComponent: () => came(import("./machine/machine")).then((m) => m.MachinePlace),
  },
  {
    path: "machines/:machineId/axes/:axisId",
    data: { stays: "axisId" },
    loadComponent: () => came(import("./machine/axis/axis-frame")).then((m) => m.AxisFrame),
    children: [
      { path: "", pathMatch: "full", redirectTo: "measure" },
      {
        path: "ask",
        title: "Ask · Iron Patience",
        loadComponent: () => came(import("./diagnosis/ask")).then((m) => m.AskStation),
      },
      {
        path: "listen",
        title: "Listen · Iron Patience",
        loadComponent: () => came(import("./sound/listen-page")).then((m) => m.ListenPage),
      },
      {
        path: "locate",
        title: "Locate · Iron Patience",
        loadComponent: () => came(import("./diagnosis/locate")).then((m) => m.LocateStation),
      },
      {
        // It has a page of its own.
        path: "locate/recording",
        redirectTo: "listen",
      },
      {
        path: "locate/:testId",
        data: needs("addResult"),
        title: "Test · Iron Patience",
        loadComponent: () => came(import("./diagnosis/test-form")).then((m) => m.TestForm),
      },
      {
        path: "measure",
        title: "Measure · Iron Patience",
        loadComponent: () => came(import("./measure/measure")).then((m) => m.MeasureStation),
      },
      {
        path: "measure/new/:kind",
        data: needs("startRun"),
        title: "Set up a test · Iron Patience",
        loadComponent: () => came(import("./measure/set-up")).then((m) => m.SetUpTest),
      },
      {
        path: "import",
        data: needs("importRun"),
        title: "Import readings · Iron Patience",
        loadComponent: () => came(import("./measure/import-readings")).then((m) => m.ImportReadings),
      },
      {
        path: "runs/:runId",
        title: "Test · Iron Patience",
        loadComponent: () => came(import("./measure/run/run")).then((m) => m.RunPlace),
      },
      {
        path: "fix",
        title: "Fix · Iron Patience",
        loadComponent: () => came(import("./job/fix-station")).then((m) => m.FixStation),
      },
      {
        path: "prove",
        title: "Prove · Iron Patience",
        loadComponent: () => came(import("./job/prove-station")).then((m) => m.ProveStation),
      },
      {
        path: "table",
        title: "Compensation table · Iron Patience",
        loadComponent: () => came(import("./prove/tables-page")).then((m) => m.TablesPage),
      },
      {
        path: "table/new",
        data: needs("keepCorrection"),
        title: "Make a table · Iron Patience",
        loadComponent: () => came(import("./prove/make-table")).then((m) => m.MakeTable),
      },
      {
        path: "table/:tableId",
        title: "Table · Iron Patience",
        loadComponent: () => came(import("./prove/table-page")).then((m) => m.TablePage),
      },
      {
        path: "keep",
        title: "Keep · Iron Patience",
        loadComponent: () => came(import("./lubrication/keep-station")).then((m) => m.KeepStation),
      },
      {
        path: "set",
        title: "Set · Iron Patience",
        loadComponent: () => came(import("./measure/hand/set-station")).then((m) => m.SetStation),
      },
      {
        path: "series/:seriesId",
        title: "Readings · Iron Patience",
        loadComponent: () => came(import("./measure/hand/hand-test-page")).then((m) => m.HandTestPage),
      },
      {
        path: "history",
        title: "History · Iron Patience",
        loadComponent: () => came(import("./measure/history/history")).then((m) => m.HistoryPlace),
      },
      {
        path: "setup",
        title: "Axis · Iron Patience",
        loadComponent: () => came(import("./machine/axis/axis-setup")).then((m) => m.AxisSetup),
      },
    ],
  },
  {
    path: "rounds",
    title: "Rounds · Iron Patience",
    loadComponent: () => came(import("./lubrication/rounds-page")).then((m) => m.RoundsPage),
  },
  {
    path: "rounds/half-year",
    title: "Half a year · Iron Patience",
    loadComponent: () => came(import("./lubrication/half-year")).then((m) => m.HalfYear),
  },
  {
    path: "rounds/paper",
    data: needs("visitPoint"),
    title: "Paper · Iron Patience",
    loadComponent: () => came(import("./lubrication/paper-entry")).then((m) => m.PaperEntry),
  },
  {
    path: "rounds/sheet/:date",
    title: "Round on paper · Iron Patience",
    loadComponent: () => came(import("./lubrication/round-sheet")).then((m) => m.RoundSheet),
  },
  {
    path: "rounds/labels",
    title: "Labels · Iron Patience",
    loadComponent: () => came(import("./lubrication/labels-page")).then((m) => m.LabelsPage),
  },
  {
    path: "rounds/meters",
    title: "Hour meters · Iron Patience",
    loadComponent: () => came(import("./lubrication/meters-page")).then((m) => m.MetersPage),
  },
  {
    path: "rounds/lubricants",
    title: "Lubricants · Iron Patience",
    loadComponent: () => came(import("./lubrication/lubricants-page")).then((m) => m.LubricantsPage),
  },
  {
    path: "rounds/parts",
    title: "Spare parts · Iron Patience",
    loadComponent: () => came(import("./stock/parts-page")).then((m) => m.PartsPage),
  },
  {
    path: "rounds/keeping",
    title: "Days and rules · Iron Patience",
    loadComponent: () => came(import("./lubrication/keeping-page")).then((m) => m.KeepingPage),
  },
  {
    path: "points/:pointId",
    title: "Lubrication point · Iron Patience",
    loadComponent: () => came(import("./lubrication/point-page")).then((m) => m.PointPage),
  },
  {
    path: "jobs",
    title: "Jobs · Iron Patience",
    loadComponent: () => came(import("./job/jobs-page")).then((m) => m.JobsPage),
  },
  {
    path: "jobs/:jobId",
    title: "Job · Iron Patience",
    loadComponent: () => came(import("./job/job-page")).then((m) => m.JobPage),
  },
  {
    path: "jobs/:jobId/kit",
    title: "Kit of a job · Iron Patience",
    loadComponent: () => came(import("./job/kit-page")).then((m) => m.KitPage),
  },
  {
    path: "jobs/:jobId/sheet",
    title: "Job sheet · Iron Patience",
    loadComponent: () => came(import("./job/sheet-page")).then((m) => m.SheetPage),
  },
  {
    path: "sums",
    title: "Sums · Iron Patience",
    loadComponent: () => came(import("./sums/sums-page")).then((m) => m.SumsPage),
  },
  {
    path: "sums/:sumId",
    title: "Sums · Iron Patience",
    loadComponent: () => came(import("./sums/sums-page")).then((m) => m.SumsPage),
  },
  {
    path: "cases",
    title: "Cases · Iron Patience",
    loadComponent: () => came(import("./diagnosis/cases-page")).then((m) => m.CasesPage),
  },
  {
    path: "cases/:caseId",
    title: "Finding · Iron Patience",
    loadComponent: () => came(import("./diagnosis/finding-page")).then((m) => m.FindingPage),
  },
  {
    path: "causes",
    title: "Causes · Iron Patience",
    loadComponent: () => came(import("./diagnosis/knowledge-page")).then((m) => m.KnowledgePage),
  },
  {
    path: "**",
    title: "Not here · Iron Patience",
    loadComponent: () => came(import("./shared/not-here")).then((m) => m.NotHere),
  },
];
