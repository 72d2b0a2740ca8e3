import { choose, begin, expect, test, AS_ROWAN, beginCase } from "./shop";

const AVOCET_Z = "/machines/4/axes/12";
const BITTERN_Z = "/machines/1/axes/3";

test("a coarse dial on a tight limit is warned of before, and ends in “cannot tell” with what would tell", async ({
  page,
}) => {
  const dial = {
    name: "Old dial, 0.05 mm",
    kind: "plunger",
    unit: "mm",
    resolutionMm: 0.05,
    tipAngleDeg: 0,
    rangeMm: 10,
  };
  expect(
    (
      await page.request.post("/api/indicators", {
        headers: AS_ROWAN,
        data: dial,
      })
    ).status(),
  ).toBe(201);
  await page.goto(`${BITTERN_Z}/measure/new/two-sided`);
  await choose(page.getByLabel("Indicator"), "Old dial, 0.05 mm");
  await expect(page.getByText(/too coarse for the limit/)).toBeVisible();
  await page.getByLabel("Runs").fill("2");
  await page.getByRole("button", { name: "Begin the test" }).click();
  await page.getByRole("button", { name: "Type readings" }).click();
  await page.getByRole("button", { name: "It stands at zero" }).click();
  const field = page.getByLabel("Reading, mm");
  for (const [i, value] of ["0.00", "0.00", "0.00", "0.00"].entries()) {
    await field.fill(value);
    await field.press("Enter");
    await expect(
      page.getByText(`${i + 1} of 4 readings`, { exact: true }).or(page.getByText("Done: 4 of 4 readings are kept.")),
    ).toBeVisible();
  }
  await expect(page.getByText("Done: 4 of 4 readings are kept.")).toBeVisible();
  await expect(page.getByText("cannot tell").first()).toBeVisible();
  await expect(page.getByText(/Nothing to do/)).toHaveCount(0);
  await expect(page.getByText(/would tell/).first()).toBeVisible();
  await page.goto("/floor");
  await expect(page.getByRole("link", { name: /Bittern Z: .*cannot tell/ })).toBeVisible();
});

test("the column of a bench mill, shimmed by the app’s figures on the simulated machine, sweeps flat", async ({
  page,
}) => {
  // Chips under two of its bolts: the right front and the right back one.
  const chips = [
    [90, 70, 0.25],
    [90, -70, 0.1],
    [-90, 70, 0],
    [-90, -70, 0],
  ].map(([x, y, mm]) => ({ x, y, mm }));
  expect(
    (
      await page.request.post("/api/axes/12/device/shims", {
        headers: AS_ROWAN,
        data: { shimmed: "column-base", shims: chips },
      })
    ).status(),
  ).toBe(200);
  const sweep = async (): Promise<void> => {
    await page.goto(`${AVOCET_Z}/set`);
    await page.getByLabel("Swept across, mm").fill("240");
    await page.getByLabel("Swept in depth, mm").fill("150");
    await page.getByRole("button", { name: /^Begin.*[Tt]ram/ }).click();
    const rows = page.getByRole("region", { name: "Readings so far" }).getByText("µm");
    for (let i = 1; i <= 4; i += 1) {
      await page.getByRole("button", { name: "Go there and read" }).click();
      await expect(rows).toHaveCount(i);
    }
  };
  await sweep();
  await expect(page.getByText(/^Out of square: more than/)).toBeVisible();
  await choose(page.getByRole("combobox", { name: "What is shimmed" }), "the column, on its base");
  await page.getByLabel("Bolts apart across, mm").fill("180");
  await page.getByLabel(/^Bolt rows apart, .*, mm/).fill("140");
  await page.keyboard.press("Tab");
  await expect(page.getByText(/With these in, the sweep will read/)).toBeVisible();
  await page
    .getByRole("button", {
      name: "Put these shims in on the simulated machine",
    })
    .click();
  await expect(page.getByText("The shims are in. Sweep again")).toBeVisible();
  await sweep();
  await expect(page.getByText(/^Square within 0\.050 mm over 300 mm/)).toBeVisible();
});

test("an axis has one state word on floor, chain, result and finding", async ({ page }) => {
  await begin(page, BITTERN_Z, { kind: "two-sided", fill: { Runs: "3" } });
  await page.getByRole("button", { name: "Type readings" }).click();
  await page.getByRole("button", { name: "It stands at zero" }).click();
  const field = page.getByLabel("Reading, mm");
  // 14 ± 6 µm: past what can be left, perhaps, and under the limit for repair.
  for (const [i, value] of ["0.000", "0.014", "0.001", "0.015", "0.000", "0.014"].entries()) {
    await field.fill(value);
    await field.press("Enter");
    await expect(
      page.getByText(`${i + 1} of 6 readings`, { exact: true }).or(page.getByText("Done: 6 of 6 readings are kept.")),
    ).toBeVisible();
  }
  const state = page.locator(".state ip-state-mark");
  const word = (await state.innerText()).trim();
  expect(word).toMatch(/^(watch|perhaps watch)$/);
  const chain = page.getByRole("list", { name: /^Drive chain/ });
  await expect(chain.getByRole("listitem").filter({ hasText: "lost" })).toContainText(word);
  await page.goto("/floor");
  await expect(page.getByRole("link", { name: new RegExp(`Bittern Z: .*${word}`) })).toBeVisible();
  await page.goto(`${BITTERN_Z}/ask`);
  await beginCase(page);
  await expect(page.getByText(/Case 1, opened/)).toBeVisible();
  await page.goto("/cases/1");
  await expect(page.locator("main ip-state-mark").first()).toHaveText(word);
});
