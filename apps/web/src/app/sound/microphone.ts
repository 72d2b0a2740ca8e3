import { Injectable, signal } from "@angular/core";
import { writeWav } from "@iron/contract";

/** Why there is no microphone, as the browser says it. */
export type MicrophoneTrouble = "plain-http" | "refused" | "none" | "taken" | "other";

/** A recording that is made. */
export interface Taken {
  readonly file: Blob;
  readonly seconds: number;
  /** The microphone turned itself up or down; null where the browser does not say. */
  readonly ownGain: boolean | null;
}

const REFUSALS: Readonly<Record<string, MicrophoneTrouble>> = {
  NotAllowedError: "refused",
  SecurityError: "refused",
  NotFoundError: "none",
  OverconstrainedError: "none",
  NotReadableError: "taken",
  AbortError: "taken",
};

/** So much of what is heard is a level: a twentieth of a second, samples. */
const LEVEL_OVER = 2400;
const FULL = 0.99;

/** The microphone of this device, as it is: nothing that a browser does to make speech pleasant. */
@Injectable()
export class Microphone {
  /** Of the last moment, dB of full scale; null while nothing is recorded. */
  readonly levelDb = signal<number | null>(null);
  readonly seconds = signal(0);
  readonly clipped = signal(false);
  private context: AudioContext | null = null;
  private stream: MediaStream | null = null;
  private pieces: Float32Array[] = [];
  private peak = 0;
  private since = 0;

  /** Begins to record; what keeps it from that is thrown. */
  async open(): Promise<void> {
    // A page over plain http from another computer has no microphones at all.
    const devices = (navigator as Partial<Navigator>).mediaDevices;
    if (!devices) throw new MicrophoneError("plain-http");
    try {
      this.stream = await devices.getUserMedia({
        audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 },
      });
      this.context = new AudioContext();
      await this.context.audioWorklet.addModule("/recorder.worklet.js");
      const recorder = new AudioWorkletNode(this.context, "recorder", { numberOfOutputs: 0 });
      recorder.port.onmessage = ({ data }: MessageEvent<Float32Array>) => this.hear(data);
      this.context.createMediaStreamSource(this.stream).connect(recorder);
      await this.context.resume();
    } catch (error) {
      this.drop();
      throw new MicrophoneError(REFUSALS[(error as DOMException).name] ?? "other");
    }
  }

  /** Ends it and gives what was heard; null where nothing was. */
  close(): Taken | null {
    const { pieces, context, stream } = this;
    const rate = context?.sampleRate ?? 0;
    const gain = stream?.getAudioTracks()[0]?.getSettings().autoGainControl;
    this.drop();
    const count = pieces.reduce((sum, p) => sum + p.length, 0);
    if (!rate || !count) return null;
    const samples = new Float32Array(count);
    let at = 0;
    for (const piece of pieces) {
      samples.set(piece, at);
      at += piece.length;
    }
    const file = new Blob([writeWav(samples, rate) as Uint8Array<ArrayBuffer>], { type: "audio/wav" });
    return { file, seconds: count / rate, ownGain: gain ?? null };
  }

  /** Ends it and forgets what was heard. */
  drop(): void {
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    void this.context?.close().catch(() => undefined);
    this.stream = null;
    this.context = null;
    this.pieces = [];
    this.peak = 0;
    this.since = 0;
    this.levelDb.set(null);
    this.seconds.set(0);
    this.clipped.set(false);
  }

  private hear(piece: Float32Array): void {
    const { context } = this;
    if (!context) return;
    this.pieces.push(piece);
    for (const x of piece) this.peak = Math.max(this.peak, Math.abs(x));
    this.since += piece.length;
    if (this.since < LEVEL_OVER) return;
    this.levelDb.set(20 * Math.log10(this.peak + 1e-6));
    if (this.peak > FULL) this.clipped.set(true);
    this.seconds.update((s) => s + this.since / context.sampleRate);
    this.peak = 0;
    this.since = 0;
  }
}

export class MicrophoneError extends Error {
  constructor(readonly trouble: MicrophoneTrouble) {
    super(trouble);
    this.name = "MicrophoneError";
  }
}
