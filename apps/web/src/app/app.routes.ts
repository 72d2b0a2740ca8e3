import type { Routes } from "@angular/router";

export const routes: Routes = [
  { path: "", pathMatch: "full", redirectTo: "floor" },
  {
    path: "floor",
    title: "Floor · Iron Patience",
    loadComponent: () =>
      import("./places/floor/floor").then((m) => m.FloorPlace),
  },
  {
    path: "shop",
    title: "Shop · Iron Patience",
    loadComponent: () => import("./places/shop/shop").then((m) => m.ShopPlace),
  },
  {
    path: "machines/new",
    title: "New machine · Iron Patience",
    loadComponent: () =>
      import("./places/machine/new-machine").then((m) => m.NewMachine),
  },
  {
    path: "machines/:machineId",
    title: "Machine · Iron Patience",
    loadComponent: () =>
      import("./places/machine/machine").then((m) => m.MachinePlace),
  },
  {
    path: "machines/:machineId/axes/:axisId",
    loadComponent: () =>
      import("./places/axis/axis-frame").then((m) => m.AxisFrame),
    children: [
      { path: "", pathMatch: "full", redirectTo: "measure" },
      {
        path: "measure",
        title: "Measure · Iron Patience",
        loadComponent: () =>
          import("./places/measure/measure").then((m) => m.MeasureStation),
      },
      {
        path: "measure/new/:kind",
        title: "Set up a test · Iron Patience",
        loadComponent: () =>
          import("./places/measure/set-up").then((m) => m.SetUpTest),
      },
      {
        path: "import",
        title: "Import readings · Iron Patience",
        loadComponent: () =>
          import("./places/measure/import-readings").then(
            (m) => m.ImportReadings,
          ),
      },
      {
        path: "runs/:runId",
        title: "Test · Iron Patience",
        loadComponent: () => import("./places/run/run").then((m) => m.RunPlace),
      },
      {
        path: "history",
        title: "History · Iron Patience",
        loadComponent: () =>
          import("./places/history/history").then((m) => m.HistoryPlace),
      },
      {
        path: "setup",
        title: "Axis · Iron Patience",
        loadComponent: () =>
          import("./places/axis/axis-setup").then((m) => m.AxisSetup),
      },
    ],
  },
  {
    path: "**",
    title: "Not here · Iron Patience",
    loadComponent: () => import("./places/not-here").then((m) => m.NotHere),
  },
];
