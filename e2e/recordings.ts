import { virtualSound, type AxisConfig, type SoundPlan, type VirtualSoundAsked } from "@iron/core";
import { LARGEST_SOUND_PART, writeWav, type Sound } from "@iron/contract";
import type { Page } from "@playwright/test";
import { randomUUID } from "node:crypto";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { answerOf, AS_ROWAN, expect } from "./shop";

type Parts = VirtualSoundAsked["parts"];

/** What a microphone hears of an axis whose parts are so. */
export function recordedAs(config: AxisConfig, plan: SoundPlan, parts: Parts): Uint8Array {
  // The same telephone as the simulated one.
  const asked = { parts, run: { ...plan, accelMmS2: 1800 }, roomDb: -20, machine: 7, seed: 3, telephone: 1 };
  return writeWav(virtualSound(config, asked).samples, 48_000);
}

/** A short run in the middle of an axis, as its page may be set to it. */
export const shortPlan = (config: AxisConfig): SoundPlan => ({
  ...{ stillS: 4, feedMmMin: Math.min(8000, 0.6 * config.rapidMmMin), passes: 2, dwellS: 0.5 },
  ...{ fromMm: 0.25 * config.travelMm, strokeMm: 0.5 * config.travelMm },
});

/** Sends a recording of an axis with these parts, as a page does. */
export async function sendRecording(page: Page, axisId: number, parts: Parts): Promise<Sound> {
  const { config } = await answerOf<{ config: AxisConfig }>(page, `/api/axes/${axisId}`);
  const plan = shortPlan(config);
  const bytes = recordedAs(config, plan, parts);
  const begun = await page.request.post(`/api/axes/${axisId}/sounds`, {
    headers: AS_ROWAN,
    data: { key: randomUUID(), source: "file", place: "", ownGain: false, plan, bytes: bytes.length },
  });
  expect(begun.ok(), await begun.text()).toBe(true);
  const { id } = (await begun.json()) as Sound;
  for (let from = 0; from < bytes.length; from += LARGEST_SOUND_PART) {
    const part = await page.request.put(`/api/sounds/${id}/parts/${from}`, {
      headers: { ...AS_ROWAN, "content-type": "application/octet-stream" },
      data: Buffer.from(bytes.slice(from, from + LARGEST_SOUND_PART)),
    });
    expect(part.ok(), await part.text()).toBe(true);
  }
  const kept = await page.request.post(`/api/sounds/${id}/finish`, { headers: AS_ROWAN, data: {} });
  return (await kept.json()) as Sound;
}

/** What makes Chromium’s stand-in of a microphone play a file once. */
export function microphoneOf(bytes: Uint8Array): readonly string[] {
  const file = join(mkdtempSync(join(tmpdir(), "iron-listen-")), "heard.wav");
  writeFileSync(file, bytes);
  return [
    "--use-fake-ui-for-media-stream",
    "--use-fake-device-for-media-stream",
    `--use-file-for-fake-audio-capture=${file}%noloop`,
  ];
}
