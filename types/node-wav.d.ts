declare module "node-wav" {
  export function decode(bytes: Uint8Array): { sampleRate: number; channelData: readonly Float32Array[] };
  export function encode(
    channels: readonly Float32Array[],
    options: { sampleRate: number; float: boolean; bitDepth: number },
  ): Uint8Array;
}
