import { fillPlain, openJob, signOn, typeLoss } from "./job-walk";
import { expect, looking, openProgram, test, AS_ROWAN } from "./shop";

/** The smallest PNG: one white dot. */
const DOT = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg==",
  "base64",
);

test.describe("jobs at the machine", () => {
  test.describe.configure({ timeout: 300_000 });
  test.use({ speed: "40" });

  test("a loose retainer ends at tighten and stop, and the retest proves it", async ({ page }) => {
    await openJob(page, "/machines/1/axes/3", "Replace fixed-end bearings");
    await expect(page.getByText(/27\.\d+ ± \d\.\d+ µm before/)).toBeVisible();
    await signOn(page, /^Try every retainer/);
    await page.getByLabel("one or more loose").check();
    await page.getByRole("button", { name: "Sign the step" }).click();
    await page.getByRole("button", { name: "Tighten, close and retest" }).click();
    await expect(page.getByText("Planned anew: fasteners were loose")).toBeVisible();
    await signOn(page, /^Retest: same test/);
    const job = new URL(page.url()).pathname;
    await page.getByRole("link", { name: "Take the test" }).click();
    await page.getByLabel("Runs").fill("3");
    await page.getByRole("button", { name: "Begin the test" }).click();
    // The page stands still once the machine can be asked to move.
    await expect(page.getByRole("button", { name: "Make this approach" })).toBeEnabled();
    await openProgram(page);
    await page.getByLabel("Dwell at each target, s").fill("1");
    await page.getByLabel("Feed, mm/min").fill("3000");
    await page.getByRole("button", { name: "Run it on the simulated machine" }).click();
    await expect(page.getByText(/Done: \d+ of/)).toBeVisible({ timeout: 60_000 });
    await page.goto(job);
    await page.getByRole("button", { name: /^Use / }).first().click();
    await expect(page.getByText(/^Passes\./)).toBeVisible();
    await page.getByRole("button", { name: "Sign the step" }).click();
    await signOn(page, null);
    await expect(page.getByText(/Signed off on/)).toBeVisible();
    await expect(page.getByText(/Z, passes:/)).toBeVisible();
    await page.goto("/machines/1/axes/3/prove");
    await expect(page.getByText("Nothing waits for a retest")).toBeVisible();
  });

  test("a vertical bearing job outlives a killed server: what is signed meanwhile is kept and sent once", async ({
    page,
    shop,
    expectedNoise,
  }) => {
    expectedNoise.push(/ERR_CONNECTION_REFUSED|Failed to load resource/);
    await openJob(page, "/machines/2/axes/6", "Replace fixed-end bearings");
    await signOn(page, /^Motor with its brake off/);
    await expect(page.getByText(/Now: power off · head: block · coupling loose/)).toBeVisible();
    // What was signed so far is with the server; what comes now is not.
    const reached = async (): Promise<number> =>
      ((await (await page.request.get(`${shop.url}/api/jobs/1`)).json()) as { events: unknown[] }).events.length;
    const shown = Number(
      /(\d+) of \d+ steps signed/.exec(await page.getByText(/\d+ of \d+ steps signed/).innerText())?.[1],
    );
    await expect.poll(reached).toBe(shown);
    await shop.stop("SIGKILL");
    await page.locator("summary", { hasText: "Note or photo" }).click();
    await page
      .getByLabel("Photo, JPEG or PNG")
      .setInputFiles({ name: "brake.png", mimeType: "image/png", buffer: DOT });
    await expect(page.getByText("A photo waits in this browser till the server answers.")).toBeVisible();
    await fillPlain(page);
    await page.getByRole("button", { name: "Sign the step" }).click();
    await expect(page.getByText(/No connection\. 1 entry is kept in this browser/)).toBeVisible();
    await fillPlain(page);
    await page.getByRole("button", { name: "Sign the step" }).click();
    await expect(page.getByText(/2 entries are kept/)).toBeVisible();
    await shop.start();
    await expect(page.getByText(/kept in this browser/)).toHaveCount(0, { timeout: 60_000 });
    await expect
      .poll(
        async () => ((await (await page.request.get(`${shop.url}/api/jobs/1`)).json()) as { photos: unknown[] }).photos,
      )
      .toMatchObject([{ step: "Z:motor-off" }]);
    const events = ((await (await page.request.get(`${shop.url}/api/jobs/1`)).json()) as { events: { step: string }[] })
      .events;
    expect(events.filter((e) => e.step === "Z:motor-off")).toHaveLength(1);
    await signOn(page, null);
    await expect(page.getByText(/Signed off on/)).toBeVisible();
    await page.goto("/jobs");
    await expect(
      page.getByRole("row", { name: /Replace fixed-end bearings, Z signed off|Replace fixed-end bearings, Z/ }),
    ).toContainText("signed off");
  });

  test("a screw replacement goes on in another tab; a failed retest is refused, an accepted one needs reason and name", async ({
    page,
    context,
  }) => {
    await openJob(page, "/machines/2/axes/4", "Replace screw with nut");
    await signOn(page, /^Draw the screw/);
    const url = page.url();
    await page.close();
    const other = await context.newPage();
    await other.goto(url);
    await expect(other.locator("article h2")).toHaveText(/^Draw the screw/);
    await signOn(other, /^Retest: same test/);
    await typeLoss(other, "31");
    await other.getByRole("button", { name: "Sign the step" }).click();
    await expect(other.getByRole("alert")).toContainText("The retest does not pass");
    await expect(other.getByRole("alert")).toContainText("the limit for repair");
    await other.getByLabel("Reason to go on all the same").fill("New screw on order, roughing only");
    await other.getByLabel("Who vouches, first name").fill("Ama");
    await other.getByRole("button", { name: "Sign the step" }).click();
    await signOn(other, null);
    await expect(other.getByText(/X, does not pass:/)).toBeVisible();
    await other.getByText(/Found, changed, accepted/).click();
    await expect(other.getByText(/accepted: New screw on order, roughing only \(Ama\)/)).toBeVisible();
  });

  test("three axes in one stop share one sheet; a bad order is told, a good one kept", async ({ page }) => {
    await page.goto("/machines/2/axes/4/fix");
    await page.getByRole("button", { name: "Other axes in the same stop…" }).click();
    for (const letter of ["X", "Y", "Z"])
      await page
        .getByRole("group", { name: `Axis ${letter}` })
        .getByLabel("Replace fixed-end bearings", { exact: true })
        .check();
    await expect(page.getByText(/3 end-bearing set \(order\)/)).toBeVisible();
    await page.getByRole("button", { name: "Open the job" }).click();
    await expect(page.getByRole("heading", { name: "Replace fixed-end bearings, X + Y + Z" })).toBeVisible();
    await page.getByText("The whole sheet").click();
    await expect(page.getByText(/^Isolate, lock, prove dead · hold/).first()).toBeVisible();
    await page.getByRole("button", { name: "Change the order" }).click();
    await page.getByRole("button", { name: /^Earlier: X · Covers off/ }).click();
    await page.getByRole("button", { name: /^Earlier: X · Covers off/ }).click();
    await page.getByRole("button", { name: /^Earlier: X · Covers off/ }).click();
    await page.getByRole("button", { name: /^Earlier: X · Covers off/ }).click();
    await expect(page.getByRole("alert")).toContainText("has hands in with the power on");
    await expect(page.getByRole("button", { name: "Keep this order" })).toBeDisabled();
    await page.getByRole("button", { name: "Leave it as it was" }).click();
    await signOn(page, /^Isolate, lock/);
    await page.getByRole("button", { name: "Sign the step" }).click();
    await expect(page.getByRole("alert")).toContainText("who vouches for it");
  });
});

const KINDS = [
  "tighten",
  "fixed-bearings",
  "support-bearing",
  "screw",
  "ball-nut",
  "grease-nut",
  "coupling",
  "belt",
  "bearing-preload",
  "align-screw",
  "float-bracket",
  "nut-bearing",
  "gib",
  "carriages",
  "v-wheels",
  "rack-spot",
  "pinion",
  "gantry-square",
  "cage",
  "antibacklash",
  "home-switch",
  "tram",
  "plumb",
];

looking("every kind of job prints on paper without overflow", async ({ page, shop }) => {
  const options = {
    preload: "torque",
    align: "carriage",
    gib: "knee",
    nutService: "rebuild",
    newInsert: true,
    farEndToo: false,
  };
  const { axes } = (await (
    await page.request.post(`${shop.url}/api/machines`, {
      headers: AS_ROWAN,
      data: { nickname: "Wigeon", bay: "12", kind: "bench-mill", hoursPerWeek: 10, note: "", letters: ["Z"] },
    })
  ).json()) as { axes: { config: object }[] };
  const own = axes[0].config;
  // No demo machine has a belt, or a nut that turns.
  const turning = {
    ...own,
    letter: "X",
    orientation: "horizontal",
    member: "gantry",
    brake: false,
    transmission: "rotating-nut",
    ratio: 2,
    guideway: "rail",
  };
  await page.request.post(`${shop.url}/api/machines/1/axes`, {
    headers: AS_ROWAN,
    data: { config: { ...turning, letter: "W" } },
  });
  const all: [number, number][] = [];
  for (let id = 1; id <= 9; id += 1) {
    const machine = (await (await page.request.get(`${shop.url}/api/machines/${id}`)).json()) as {
      axes: { id: number }[];
    };
    for (const axis of machine.axes) all.push([id, axis.id]);
  }
  await page.setViewportSize({ width: 718, height: 1000 });
  await page.emulateMedia({ media: "print" });
  for (const kind of KINDS) {
    let id = 0;
    for (const [machine, axisId] of all) {
      const made = await page.request.post(`${shop.url}/api/machines/${machine}/jobs`, {
        headers: AS_ROWAN,
        data: { items: [{ axisId, kind }], options, caseId: null },
      });
      if (made.status() !== 201) continue;
      ({ id } = (await made.json()) as { id: number });
      break;
    }
    expect([kind, id > 0]).toEqual([kind, true]);
    await page.goto(`/jobs/${id}/sheet`);
    await expect(page.getByRole("heading", { name: new RegExp(`^Job ${id} ·`) })).toBeVisible();
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
    expect([kind, wide]).toEqual([kind, 0]);
    const pdf = await page.pdf({ format: "A4", margin: { top: "12mm", bottom: "12mm", left: "10mm", right: "10mm" } });
    expect(pdf.subarray(0, 5).toString()).toBe("%PDF-");
  }
});
