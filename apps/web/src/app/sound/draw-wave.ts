import { InjectionToken } from "@angular/core";
import type { Ink } from "../shared/chart";

export interface WaveAsked {
  readonly container: HTMLElement;
  /** Plays it, and says where it is. */
  readonly audio: HTMLAudioElement;
  readonly motion: readonly { readonly fromS: number; readonly toS: number; readonly label: string }[];
  readonly ink: Ink;
  readonly nonce: string | undefined;
}

/** Draws a recording, its motion and its spectrogram; what comes back takes it away again. */
export type DrawWave = (asked: WaveAsked) => Promise<() => void>;

/** Up to here it is drawn, Hz: beyond, small microphones hear little. */
const HIGHEST_HZ = 10_000;
/** 47 Hz and 21 ms of it are one spot. */
const FFT = 1024;

/** From paper to ink in even steps. */
function shades(paper: string, ink: string): number[][] {
  const rgb = (hex: string): number[] => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255);
  const [from, to] = [rgb(paper), rgb(ink)];
  return Array.from({ length: 256 }, (_, i) => [...from.map((v, c) => v + ((to[c] - v) * i) / 255), 1]);
}

/** Which way it went, readable on whatever is drawn under it. */
function labelOf(text: string, ink: Ink): HTMLElement {
  const label = document.createElement("span");
  label.textContent = text;
  Object.assign(label.style, {
    background: ink.sheet,
    color: ink.ink,
    font: "12px B612, sans-serif",
    padding: "0 3px",
  });
  return label;
}

export const DRAW_WAVE = new InjectionToken<DrawWave>("draws a recording", {
  providedIn: "root",
  factory:
    () =>
    async ({ container, audio, motion, ink, nonce }) => {
      const [{ default: WaveSurfer }, { default: Regions }, { default: Spectrogram }] = await Promise.all([
        import("wavesurfer.js"),
        import("wavesurfer.js/plugins/regions"),
        import("wavesurfer.js/plugins/spectrogram"),
      ]);
      // It is fetched now anyway, and the picture waits for what plays it.
      audio.preload = "auto";
      // A line that broke has left it with nothing to play: it does not look again by itself.
      if (audio.error) audio.load();
      const regions = Regions.create();
      const wave = WaveSurfer.create({
        // By the very address that it is played from: any other would be loaded into it anew.
        ...{
          container,
          media: audio,
          url: audio.src,
          height: 56,
          normalize: true,
          sampleRate: 2 * HIGHEST_HZ,
          cspNonce: nonce,
        },
        ...{ waveColor: ink.graphite, progressColor: ink.blue, cursorColor: ink.copper, cursorWidth: 2 },
        plugins: [
          regions,
          Spectrogram.create({
            ...{ fftSamples: FFT, noverlap: FFT / 2, windowFunc: "hann", scale: "linear", height: 160 },
            ...{ frequencyMin: 0, frequencyMax: HIGHEST_HZ, gainDB: 10, rangeDB: 70, labels: true },
            ...{ labelsColor: ink.ink, labelsHzColor: ink.ink, labelsBackground: ink.sheet },
            colorMap: shades(ink.sheet, ink.ink),
          }),
        ],
      });
      await new Promise<void>((drawn, failed) => {
        wave.on("ready", () => drawn());
        wave.on("error", failed);
      });
      // Before it is known how long it is, all would lie at its beginning.
      for (const { fromS, toS, label } of motion)
        regions.addRegion({
          ...{ start: fromS, end: toS, content: labelOf(label, ink), drag: false, resize: false, color: "transparent" },
        });
      return () => wave.destroy();
    },
});
