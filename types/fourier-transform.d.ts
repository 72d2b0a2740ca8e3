declare module "fourier-transform" {
  /** Complex spectrum of a real signal, 0 to Nyquist, not normalised; the length is a power of two. */
  export function fft(
    input: Float32Array | Float64Array,
    output?: [Float64Array, Float64Array],
  ): [Float64Array, Float64Array];
}
