import { test as base, expect, type BrowserContext, type Locator, type Page } from "@playwright/test";
import { spawn, type ChildProcess } from "node:child_process";
import { cpSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** A running server on a database of its own, which can be killed and started again. */
export class ShopServer {
  private process: ChildProcess | null = null;
  readonly folder = mkdtempSync(join(tmpdir(), "iron-e2e-"));
  private port = 0;
  private scheme = "http";
  private said = "";

  constructor(
    private readonly args: readonly string[],
    /** The zone of its clock. */
    private readonly zone = process.env["TZ"],
    /** What it is run by: a network namespace’s own command, say. */
    private readonly by: readonly string[] = [],
  ) {}

  get url(): string {
    return this.at("localhost");
  }

  /** By another of its names. */
  at(name: string): string {
    return `${this.scheme}://${name}:${this.port}`;
  }

  async start(): Promise<void> {
    const filled = process.env["IRON_E2E_DEMO"];
    const own = this.zone === process.env["TZ"] && this.args.includes("--demo");
    if (filled && own && readdirSync(this.folder).length === 0) cpSync(filled, this.folder, { recursive: true });
    const args = [
      "dist/server/main.cjs",
      "--data",
      this.folder,
      "--port",
      String(this.port),
      "--simulation-speed",
      "12",
      "--simulation-seed",
      "1",
      ...this.args,
    ];
    const [command, ...rest] = [...this.by, process.execPath, ...args];
    const child = spawn(command, rest, {
      stdio: ["ignore", "pipe", "inherit"],
      env: { ...process.env, TZ: this.zone, LOG_LEVEL: "error" },
    });
    this.process = child;
    this.said = "";
    this.port = await new Promise<number>((done, fail) => {
      child.stdout?.on("data", (data: Buffer) => {
        this.said += data.toString();
        const [, scheme, port] = /(https?):\/\/[^/]+:(\d+)\//.exec(this.said) ?? [];
        if (scheme) this.scheme = scheme;
        if (port) done(Number(port));
      });
      child.once("exit", (code) => fail(new Error(`the server ended (${code}): ${this.said}`)));
    });
  }

  /** What its console says to enter where nobody keeps it yet. */
  async setUpCode(): Promise<string> {
    let code: string | undefined;
    await expect.poll(() => (code = /code, once: (\w+)/.exec(this.said)?.[1])).toBeTruthy();
    return code ?? "";
  }

  /** Ends it like a power cut, or politely. */
  async stop(signal: "SIGKILL" | "SIGTERM"): Promise<number | null> {
    const child = this.process;
    if (!child || child.exitCode !== null || child.signalCode !== null) return child?.exitCode ?? null;
    const ended = new Promise<number | null>((done) => child.once("exit", done));
    child.kill(signal);
    return ended;
  }

  async close(): Promise<void> {
    await this.stop("SIGKILL");
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** What a request of the test’s own says of who makes it: every write does. */
export const AS_ROWAN = { "x-working-as": "Rowan" };

interface Fixtures {
  readonly shop: ShopServer;
  /** Console errors and CSP reports a test expects, as when it cuts the server off. */
  readonly expectedNoise: RegExp[];
  /** How much faster than real the simulated machines run. */
  readonly speed: string;
}

/** What a page’s console says of errors and warnings, as it comes. */
export function noiseOf(page: Page): readonly string[] {
  const noise: string[] = [];
  page.on("console", (m) => {
    if (m.type() === "error" || m.type() === "warning") noise.push(`${m.text()} ${m.location().url}`.trim());
  });
  page.on("pageerror", (e) => noise.push(e.message));
  return noise;
}

/** A test in the demo shop. The console must stay free of errors and CSP reports. */
export const test = base.extend<Fixtures>({
  expectedNoise: async ({}, use) => use([]), // eslint-disable-line no-empty-pattern
  speed: ["12", { option: true }],
  shop: async ({ speed, timezoneId }, use) => {
    const shop = new ShopServer(["--demo", "--simulation-speed", speed], timezoneId);
    await shop.start();
    await use(shop);
    await shop.close();
  },
  baseURL: async ({ shop }, use) => use(shop.url),
  page: async ({ page, expectedNoise }, use) => {
    const noise = noiseOf(page);
    await use(page);
    expect(noise.filter((n) => !expectedNoise.some((e) => e.test(n)))).toEqual([]);
  },
});

interface Shared {
  readonly sharedShop: ShopServer;
  /** Made by the first test of a worker that wants it. */
  readonly shared: { context: BrowserContext | null };
}

/** For tests that change nothing: one shop and one browser’s store of files for all that a worker runs. */
export const looking = test.extend<object, Shared>({
  sharedShop: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const shop = new ShopServer(["--demo"]);
      await shop.start();
      await use(shop);
      await shop.close();
    },
    { scope: "worker" },
  ],
  shared: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const shared: Shared["shared"] = { context: null };
      await use(shared);
      await shared.context?.close();
    },
    { scope: "worker" },
  ],
  shop: async ({ sharedShop }, use) => use(sharedShop),
  context: async ({ browser, shared }, use) => {
    shared.context ??= await browser.newContext();
    await use(shared.context);
    for (const page of shared.context.pages()) {
      // What one chose by the way, as the night, is nobody else’s.
      await page.evaluate(() => localStorage.clear());
      await page.close();
    }
  },
});

export { expect };

/** Sets up a test and begins it; returns when the guided run is there. */
export async function begin(
  page: Page,
  axisPath: string,
  { kind, fill = {} }: { readonly kind: string; readonly fill?: Record<string, string> },
): Promise<void> {
  await page.goto(`${axisPath}/measure/new/${kind}`);
  for (const [label, value] of Object.entries(fill)) await page.getByLabel(label).fill(value);
  await page.getByRole("button", { name: "Begin the test" }).click();
  await expect(page.getByRole("button", { name: "Make this approach" })).toBeEnabled();
}

/** What the server answers to a page: names and networks may be known to the browser alone. */
export async function answerOf<T>(page: Page, path: string): Promise<T> {
  return (await page.evaluate(async (at) => (await fetch(at)).json() as Promise<unknown>, path)) as T;
}

/** Makes the approach the step asks for with the simulated machine, by key, and waits until it stands. */
export async function approach(page: Page): Promise<void> {
  const asked = page.waitForResponse(/device\/approach$/);
  await page.keyboard.press("m");
  expect((await asked).status()).toBe(200);
  await standing(page);
}

/** Waits until the axis stands and its needle has been still for a moment. */
export async function standing(page: Page): Promise<void> {
  const axis = /\/axes\/(\d+)/.exec(page.url())?.[1];
  const device = `/api/axes/${axis}/device`;
  await expect.poll(async () => (await answerOf<{ queued: number }>(page, device)).queued).toBe(0);
  // What the page shows is of after that, and no longer of before it moved.
  const { sequence } = await answerOf<{ sequence: number }>(page, device);
  const shown = page.locator("[data-sample]");
  await expect.poll(async () => Number(await shown.getAttribute("data-sample"))).toBeGreaterThanOrEqual(sequence);
  await expect(page.getByText(/still for 0\.[4-9] s|still for 1\.0 s/)).toBeVisible();
}

/** Opens the test program. */
export async function openProgram(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Test program…" }).click();
  await expect(page.getByLabel("Dwell at each target, s")).toBeVisible();
}

/** One of a list, by its words, or by its place in the list. */
export async function choose(field: Locator, option: string | number): Promise<void> {
  // An option may be called like the list it is in.
  const list = field.and(field.page().getByRole("combobox"));
  await list.click();
  const options = field.page().getByRole("listbox").getByRole("option");
  const one = typeof option === "number" ? options.nth(option) : options.filter({ hasText: option }).first();
  await one.click();
  await expect(list).toHaveAttribute("aria-expanded", "false");
}

/** Drags one thing onto another, as a hand does: through what lies between. */
export async function drag(page: Page, what: Locator, onto: Locator): Promise<void> {
  await onto.scrollIntoViewIfNeeded();
  const [from, to] = [await what.boundingBox(), await onto.boundingBox()];
  if (!from || !to) throw new Error("What is dragged, or where to, is not in sight.");
  await page.mouse.move(from.x + 4, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 12 });
  await page.mouse.up();
}

/** Opens a case on the axis that the page is about, without an answer yet. */
export async function beginCase(page: Page): Promise<void> {
  await expect(page.getByText("What hurts?")).toBeVisible();
  await page.keyboard.press("n");
  await expect(page.getByText(/Case \d+, opened/)).toBeVisible();
}

/** Opens all questions of station Ask. */
export async function allQuestions(page: Page): Promise<void> {
  await page.getByText("All questions").click();
}

/** Closes the case with what it really was. */
export async function closeCase(page: Page, cause: string | null): Promise<void> {
  await page.getByRole("button", { name: "Close the case…" }).click();
  const form = page.getByRole("form", { name: "Close the case" });
  for (const box of await form.getByRole("checkbox").all()) await box.uncheck();
  if (cause) await form.getByLabel(cause, { exact: true }).check();
  await form.getByLabel("In words").fill("seen with the cover off");
  await form.getByRole("button", { name: "Close the case" }).click();
  await expect(page.getByRole("button", { name: "Take it up again" })).toBeVisible();
}
