import { planSeconds, type AxisConfig, type VirtualSoundAsked } from "@iron/core";
import { chromium, type Page } from "@playwright/test";
import { microphoneOf, recordedAs } from "./recordings";
import { answerOf, closeCase, expect, test } from "./shop";

/** A noise from its first word to a closed case. */
interface Tale {
  /** Machine and axis, and the axis of its kind that it is held beside. */
  readonly axis: readonly [machine: number, axis: number];
  readonly sister: readonly [machine: number, axis: number];
  readonly told: string;
  /** Of both, mm/min, and how far, mm. */
  readonly feed: number;
  readonly way: number;
  /** What the microphone hears; left out: the simulated axis as it is. */
  readonly parts?: VirtualSoundAsked["parts"];
  readonly like: RegExp;
  readonly beside: RegExp;
  /** What it was found to be; null: nothing wrong. */
  readonly cause: string | null;
}

const TALES: Readonly<Record<string, Tale>> = {
  "a rumble": {
    ...{ axis: [2, 6], sister: [2, 5], told: "Rumbles, worst in rapid", feed: 9000, way: 200 },
    ...{
      like: /ike worn bearings of the screw/,
      beside: /^In all .* dB louder than Godwit Y/,
      cause: "End bearings worn",
    },
  },
  "a howl": {
    ...{ axis: [1, 1], sister: [1, 2], told: "Howls, rising and falling, in rapid", feed: 8000, way: 200 },
    ...{
      // So far gone that it is no thread worn in its middle, which sounds nearly alike, however the machine falters.
      parts: { nutGapMm: 0.2 },
      like: /ike a worn nut/,
      beside: /^In all .* Bittern Y/,
      cause: "Nut worn",
    },
  },
  "a rattle": {
    ...{ axis: [4, 10], sister: [4, 12], told: "Rattles, metallic and loose, at speed", feed: 2000, way: 80 },
    ...{
      parts: { nutReturns: 1 },
      like: /ike loose ball returns/,
      beside: /^In all .* Avocet Z/,
      cause: "Ball returns loose",
    },
  },
  "nothing wrong": {
    ...{ axis: [1, 1], sister: [1, 2], told: "Rattles, metallic and loose, at speed", feed: 8000, way: 200 },
    ...{ like: /ike an axis with nothing wrong/, beside: /^In all .* Bittern Y/, cause: null },
  },
};

async function setRun(page: Page, { feed, way }: Pick<Tale, "feed" | "way">): Promise<void> {
  await page.getByText("Another run", { exact: true }).click();
  await page.getByLabel(/^Feed, /).fill(String(feed));
  await page.getByLabel(/^From, /).fill("80");
  await page.getByLabel(/^Way, /).fill(String(way));
  await page.getByLabel("Ways", { exact: true }).fill("4");
  await page.keyboard.press("Tab");
  await expect(page.getByText(/, 4 ways, half a second at either end/)).toBeVisible();
}

async function recordedByItself(page: Page): Promise<void> {
  await page.getByRole("button", { name: "Run the simulated axis" }).click();
  await expect(page.getByRole("list").getByRole("button", { name: /simulated, \d+ mm\/min/ })).toBeVisible();
}

/** The browser’s stand-in of a microphone plays the file from when it is opened: standing, then four ways. */
async function recordedByMicrophone(page: Page, seconds: number): Promise<void> {
  await page.getByRole("button", { name: "Record with this device" }).click();
  await expect(page.getByText("Now set it going: 4 ways.")).toBeVisible();
  await expect(page.getByText(new RegExp(`^${seconds} s, peak`))).toBeVisible();
  await page.getByRole("button", { name: "It has stopped: keep it" }).click();
  await expect(page.getByRole("list").getByRole("button", { name: /microphone, \d+ mm\/min/ })).toBeVisible();
}

for (const [name, tale] of Object.entries(TALES))
  test(`${name} is told, recorded, held beside its sister, read in words, weighed in the case and closed`, async ({
    baseURL,
    launchOptions,
  }) => {
    const axis = await fetch(`${baseURL}/api/axes/${tale.axis[1]}`);
    const { config } = (await axis.json()) as { config: AxisConfig };
    const plan = { stillS: 4, feedMmMin: tale.feed, fromMm: 80, strokeMm: tale.way, passes: 4, dwellS: 0.5 };
    const heard = tale.parts ? microphoneOf(recordedAs(config, plan, tale.parts)) : [];
    const browser = await chromium.launch({ ...launchOptions, args: [...(launchOptions.args ?? []), ...heard] });
    const page = await browser.newPage({ baseURL: baseURL ?? "" });
    const at = ([machine, axis]: Tale["axis"]): string => `/machines/${machine}/axes/${axis}`;

    await page.goto(`${at(tale.sister)}/listen`);
    await setRun(page, tale);
    await recordedByItself(page);

    await page.goto(`${at(tale.axis)}/ask`);
    await page.getByRole("button", { name: "Noise", exact: true }).click();
    await page.getByRole("button", { name: tale.told, exact: true }).click();
    await expect(page.getByText(/Case \d+, opened/)).toBeVisible();
    const caseId = Number(/Case (\d+)/.exec((await page.getByText(/Case \d+, opened/).textContent()) ?? "")?.[1]);
    await page.getByRole("link", { name: "Listen to it" }).click();
    await setRun(page, tale);
    if (tale.parts) await recordedByMicrophone(page, Math.ceil(planSeconds(plan)));
    else await recordedByItself(page);
    await expect(page.getByText(tale.like).first()).toBeVisible();
    await page.getByRole("combobox", { name: /^Beside another recording/ }).click();
    await page.getByRole("option").filter({ hasText: "simulated" }).last().click();
    await expect(page.getByText(tale.beside)).toBeVisible();

    await page.getByRole("link", { name: /^Locate/ }).click();
    await expect(page.getByRole("link", { name: tale.like })).toBeVisible();
    const weighed = await answerOf<{ heard: { said: string } | null }>(page, `/api/cases/${caseId}/assessment`);
    expect(weighed.heard?.said).toMatch(tale.like);
    await closeCase(page, tale.cause);
    await page.getByRole("link", { name: "One-page finding" }).click();
    await expect(page.getByText(tale.cause ? `Found: ${tale.cause}.` : "Found: nothing wrong.")).toBeVisible();
    await browser.close();
  });
