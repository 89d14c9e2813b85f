// The package tells no types of its own.
declare module 'gifenc' {
  type Format = 'rgb565' | 'rgb444' | 'rgba4444';
  type Palette = readonly (readonly number[])[];

  export function quantize(rgba: Uint8ClampedArray, colours: number, options?: { format?: Format }): Palette;
  export function applyPalette(rgba: Uint8ClampedArray, palette: Palette, format?: Format): Uint8Array;
  export function GIFEncoder(options: { auto: false }): {
    writeHeader(): void;
    /** @param options delay in milliseconds; the first one is told */
    writeFrame(
      index: Uint8Array,
      width: number,
      height: number,
      options: { palette: Palette; delay: number; first: boolean },
    ): void;
    finish(): void;
    /** What was written since the last reset, as it lies in the encoder's memory. */
    bytesView(): Uint8Array<ArrayBuffer>;
    /** Begins anew in the same memory. */
    reset(): void;
  };
}
