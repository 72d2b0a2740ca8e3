import { InjectionToken } from "@angular/core";
import { VIRTUAL_SOUND_RATE, type AxisConfig, type VirtualSoundAsked } from "@iron/core";

export interface SoundAsked {
  readonly config: AxisConfig;
  readonly asked: VirtualSoundAsked;
}

/** Makes a sound away from what is shown; refused with why it could not. */
export type MakeSound = (asked: SoundAsked) => Promise<Float32Array>;

/** A loudspeaker that was opened. */
export interface Loudspeaker {
  play(samples: Float32Array, ended: () => void): void;
  close(): void;
}

/** Made in a worker of its own, which goes again with it. */
export const MAKE_SOUND = new InjectionToken<MakeSound>("makes a sound", {
  providedIn: "root",
  factory: () => async (asked) => {
    const { makeSoundWorker } = await import("./make-sound-worker");
    return new Promise((made, failed) => {
      const worker = makeSoundWorker();
      const done = (then: () => void): void => {
        worker.terminate();
        then();
      };
      worker.onmessage = ({ data }: MessageEvent<Float32Array>) => done(() => made(data));
      worker.onerror = (event) => done(() => failed(new Error(event.message)));
      worker.postMessage(asked);
    });
  },
});

/** Opens the loudspeaker of the tablet: in the press itself, since some browsers let nothing sound that comes later. */
export const OPEN_LOUDSPEAKER = new InjectionToken<() => Loudspeaker>("opens a loudspeaker", {
  providedIn: "root",
  factory: () => () => {
    const context = new AudioContext();
    void context.resume();
    return {
      play: (samples, ended) => {
        const buffer = context.createBuffer(1, samples.length, VIRTUAL_SOUND_RATE);
        buffer.copyToChannel(new Float32Array(samples), 0);
        const source = new AudioBufferSourceNode(context, { buffer });
        source.connect(context.destination);
        source.onended = ended;
        source.start();
      },
      close: () => void context.close(),
    };
  },
});
