import { inject, Injectable, signal } from "@angular/core";
import type { AxisConfig } from "@iron/core";
import { MAKE_SOUND, OPEN_LOUDSPEAKER, type Loudspeaker } from "./make-sound";
import { wordSound, type HeardWord } from "./word-sound";

/** Root mean square that every word is played at, of full scale; no peak goes beyond the other. */
const LOUD = 0.08;
const PEAK = 0.95;

/** The same loudness for all, so that none is told by how loud it is. */
export function levelled(samples: Float32Array): Float32Array {
  let [power, peak] = [0, 0];
  for (const v of samples) {
    power += v * v;
    peak = Math.max(peak, Math.abs(v));
  }
  if (peak === 0) return samples;
  const gain = Math.min(LOUD / Math.sqrt(power / samples.length), PEAK / peak);
  return samples.map((v) => gain * v);
}

/** Plays what a word for a noise means on an axis: one at a time, made once. */
@Injectable({ providedIn: "root" })
export class Hear {
  private readonly make = inject(MAKE_SOUND);
  private readonly open = inject(OPEN_LOUDSPEAKER);
  private readonly made = new Map<string, Promise<Float32Array>>();
  private loudspeaker: Loudspeaker | null = null;
  /** Pressed last: a sound that was asked for before and comes late is not played. */
  private turn = 0;
  /** The word that is made, or heard. */
  readonly word = signal<HeardWord | null>(null);
  readonly making = signal(false);
  readonly error = signal("");

  /** Plays a word; the same again, or another, ends it. */
  async toggle(config: AxisConfig, word: HeardWord): Promise<void> {
    const before = this.word();
    this.stop();
    if (before === word) return;
    const turn = this.turn;
    this.word.set(word);
    this.making.set(true);
    try {
      this.loudspeaker = this.open();
      const samples = await this.samples(config, word);
      if (turn !== this.turn) return;
      this.making.set(false);
      this.loudspeaker.play(samples, () => {
        if (turn === this.turn) this.stop();
      });
    } catch {
      if (turn !== this.turn) return;
      this.stop();
      this.error.set("It could not be played here: this browser gives no sound.");
    }
  }

  stop(): void {
    this.turn += 1;
    this.loudspeaker?.close();
    this.loudspeaker = null;
    this.word.set(null);
    this.making.set(false);
    this.error.set("");
  }

  private samples(config: AxisConfig, word: HeardWord): Promise<Float32Array> {
    const key = `${word} ${JSON.stringify(config)}`;
    const there = this.made.get(key);
    if (there) return there;
    const asked = wordSound(config, word);
    const made = asked
      ? this.make({ config, asked }).then(levelled)
      : Promise.reject(new Error(`No sound of ${word}.`));
    this.made.set(key, made);
    // What failed is tried anew the next time.
    made.catch(() => this.made.delete(key));
    return made;
  }
}
