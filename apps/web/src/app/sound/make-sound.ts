import { InjectionToken } from "@angular/core";
import { VIRTUAL_SOUND_RATE, type AxisConfig, type VirtualSoundAsked } from "@iron/core";

export interface SoundAsked {
  readonly config: AxisConfig;
  readonly asked: VirtualSoundAsked;
}

/** Makes a sound away from what is shown; refused with why it could not. */
export type MakeSound = (asked: SoundAsked) => Promise<Float32Array>;

/** Plays samples; what comes back stops them. */
export type PlaySound = (samples: Float32Array, ended: () => void) => () => void;

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

/** The loudspeaker of the tablet. */
export const PLAY_SOUND = new InjectionToken<PlaySound>("plays a sound", {
  providedIn: "root",
  factory: () => (samples, ended) => {
    const context = new AudioContext();
    const buffer = context.createBuffer(1, samples.length, VIRTUAL_SOUND_RATE);
    buffer.copyToChannel(new Float32Array(samples), 0);
    const source = new AudioBufferSourceNode(context, { buffer });
    source.connect(context.destination);
    source.onended = () => {
      void context.close();
      ended();
    };
    source.start();
    return () => source.stop();
  },
});
