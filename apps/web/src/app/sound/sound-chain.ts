import { InjectionToken } from "@angular/core";
import type { Played } from "./hear-recordings.view";

/** What stands between a recording and the loudspeaker. */
export interface SoundChain {
  set(played: Played): void;
  close(): void;
}

export type MakeChain = (audio: HTMLAudioElement) => SoundChain;

/** Quality of a band-pass that is a third octave wide. */
const THIRD_OCTAVE = 4.32;

/** Two band-passes one behind the other where a band is heard alone, and a gain. */
export const MAKE_CHAIN = new InjectionToken<MakeChain>("plays a recording through filters", {
  providedIn: "root",
  factory: () => (audio) => {
    const context = new AudioContext();
    const source = context.createMediaElementSource(audio);
    const gain = context.createGain();
    gain.connect(context.destination);
    const bands = [0, 1].map(() => new BiquadFilterNode(context, { type: "bandpass", Q: THIRD_OCTAVE }));
    bands[0].connect(bands[1]).connect(gain);
    return {
      set({ gainDb, bandHz }) {
        void context.resume();
        gain.gain.value = 10 ** (gainDb / 20);
        source.disconnect();
        for (const band of bands) if (bandHz !== null) band.frequency.value = bandHz;
        source.connect(bandHz === null ? gain : bands[0]);
      },
      close: () => void context.close(),
    };
  },
});
