import { virtualSound } from "@iron/core";
import type { SoundAsked } from "./make-sound";

addEventListener("message", ({ data }: MessageEvent<SoundAsked>) => {
  const { samples } = virtualSound(data.config, data.asked);
  postMessage(samples, { transfer: [samples.buffer] });
});
