import { defaultAxis } from "@iron/core";
import { chromium } from "@playwright/test";
import { microphoneOf, recordedAs } from "./recordings";
import { expect, test } from "./shop";

const axis = defaultAxis("vertical-centre", "X");
/** A short run of the first axis, as its page is set to it. */
const PLAN = { stillS: 4, feedMmMin: 8000, fromMm: 76, strokeMm: 200, passes: 2, dwellS: 0.5 };

const recorded = (parts: Parameters<typeof recordedAs>[2]): Uint8Array => recordedAs(axis, PLAN, parts);

test("the simulated axis is run and recorded, held beside itself, and set aside by name", async ({ page }) => {
  await page.goto("/machines/1/axes/1/ask");
  await page.getByRole("button", { name: "Noise", exact: true }).click();
  await page.getByRole("link", { name: "Listen to it" }).click();
  await expect(page.getByText("Nothing is recorded of this axis yet.")).toBeVisible();
  const run = page.getByRole("button", { name: "Run the simulated axis" });
  await run.click();
  await expect(page.getByText(/A recording makes causes likelier/)).toBeVisible();
  await run.click();
  await expect(page.getByRole("list").getByRole("button", { name: /simulated, 8000 mm\/min/ })).toHaveCount(2);
  await page.getByRole("combobox", { name: /^Beside another recording/ }).click();
  await page.getByRole("option", { name: /simulated/ }).click();
  await expect(page.getByText(/^In all as loud as recording \d+ within ±\s\d/)).toBeVisible();
  await page.getByText("See it: wave, motion and spectrogram").first().click();
  await expect(
    page.getByRole("img", { name: "Wave and spectrogram of: The recording" }).locator("canvas").first(),
  ).toBeVisible();
  await page.getByText("Half speed, an octave lower").click();
  const rates = () => page.locator("audio").evaluateAll((all) => all.map((a) => (a as HTMLAudioElement).playbackRate));
  expect(await rates()).toEqual([0.5, 0.5]);
  await page.getByRole("button", { name: "Set this recording aside" }).click();
  await page.getByRole("button", { name: "Set it aside" }).click();
  await expect(page.getByText("Say in a word why it is set aside.")).toBeVisible();
  await page.getByLabel("Why is it set aside?").fill("a compressor ran");
  await page.getByRole("button", { name: "Set it aside" }).click();
  await expect(page.getByRole("button", { name: /\(set aside\)$/ })).toBeVisible();
});

test("a word for a noise is heard, made for the axis, and ends by itself or by another press", async ({ page }) => {
  await page.goto("/machines/1/axes/1/ask");
  await page.getByRole("button", { name: "Noise", exact: true }).click();
  await page.getByRole("button", { name: "Hear it: Rumble" }).click();
  await expect(page.getByRole("button", { name: "Stop: Rumble" })).toBeVisible();
  await page.getByRole("button", { name: "Hear it: Nothing wrong" }).click();
  await expect(page.getByRole("button", { name: "Hear it: Rumble" })).toBeVisible();
  await page.getByRole("button", { name: "Stop: Nothing wrong" }).click();
  await expect(page.getByRole("button", { name: "Hear it: Nothing wrong" })).toBeVisible();
});

test("what was recorded is weighed in the case of the axis", async ({ page }) => {
  await page.goto("/machines/1/axes/1/ask");
  await page.getByRole("button", { name: "Noise", exact: true }).click();
  await page.getByRole("button", { name: "Rumbles, worst in rapid", exact: true }).click();
  await page.getByRole("link", { name: "Listen to it" }).click();
  await page.getByText("Another run", { exact: true }).click();
  await page.getByLabel(/^Way, /).fill("200");
  await page.getByLabel("Ways", { exact: true }).fill("2");
  await page.keyboard.press("Tab");
  const buffer = Buffer.from(recorded({ bearingPitting: 1 }));
  await page.getByLabel("Or a WAV file of such a run").setInputFiles({ name: "b.wav", mimeType: "audio/wav", buffer });
  await expect(page.getByText(/Much like worn bearings of the screw/)).toBeVisible();
  await page.getByRole("link", { name: /^Locate/ }).click();
  await page.getByRole("link", { name: "Recorded, it sounds like worn bearings of the screw" }).click();
  await expect(page).toHaveURL(/\/listen\?sound=\d+$/);
  await expect(page.getByText(/Much like worn bearings of the screw/)).toBeVisible();
});

test("a file is refused by what is wrong with it; one that is right goes on where the line broke", async ({
  page,
  expectedNoise,
}) => {
  expectedNoise.push(/net::ERR_FAILED/);
  await page.goto("/machines/1/axes/1/listen");
  await page.getByText("Another run", { exact: true }).click();
  await page.getByLabel(/^Way, /).fill("200");
  await page.getByLabel("Ways", { exact: true }).fill("2");
  await page.keyboard.press("Tab");
  await expect(page.getByText(/, 2 ways, half a second at either end: 8 s in all/)).toBeVisible();
  const field = page.getByLabel("Or a WAV file of such a run");
  await field.setInputFiles({ name: "a.wav", mimeType: "audio/wav", buffer: Buffer.alloc(2000, 65) });
  await expect(page.getByText("This file cannot be used: it is no WAV file, or not a whole one.")).toBeVisible();
  const buffer = Buffer.from(recorded({ bearingPitting: 1 }));
  await page.route("**/parts/*", (route) => route.abort());
  await field.setInputFiles({ name: "b.wav", mimeType: "audio/wav", buffer });
  const waits = "No connection. 1 recording waits on this device, and will be sent by itself.";
  await expect(page.getByText(waits)).toBeVisible();
  // It outlives the page, and goes on by itself.
  await page.reload();
  await expect(page.getByText(waits)).toBeVisible();
  await page.unroute("**/parts/*");
  await expect(page.getByText(/times a turn, \d+ dB over .+ angular screw bearing/)).toBeVisible();
});

test("a page that may have no microphone says so, and what to do instead", async ({ page }) => {
  await page.goto("/machines/1/axes/1/listen");
  await page.getByRole("button", { name: "Record with this device" }).click();
  await expect(page.getByRole("alert")).toContainText(/choose a file|Choose a file/);
});

test("what the microphone hears is recorded, kept and worked out", async ({ baseURL, launchOptions }) => {
  const args = [...(launchOptions.args ?? []), ...microphoneOf(recorded({ bearingPitting: 1 }))];
  const browser = await chromium.launch({ ...launchOptions, args });
  const page = await browser.newPage({ baseURL: baseURL ?? "" });
  await page.goto("/machines/1/axes/1/listen");
  await page.getByText("Another run", { exact: true }).click();
  await page.getByLabel(/^Way, /).fill("200");
  await page.getByLabel("Ways", { exact: true }).fill("2");
  await page.getByRole("button", { name: "Record with this device" }).click();
  await expect(page.getByText(/^Leave it standing, drives on: \d s more\./)).toBeVisible();
  await expect(page.getByText("Now set it going: 2 ways.")).toBeVisible();
  await expect(page.getByText(/^9 s, peak/)).toBeVisible();
  await page.getByRole("button", { name: "It has stopped: keep it" }).click();
  await expect(page.getByRole("list").getByRole("button", { name: /microphone, 8000 mm\/min/ })).toBeVisible();
  await expect(page.getByText(/times a turn, \d+ dB over .+ angular screw bearing/)).toBeVisible();
  await browser.close();
});
