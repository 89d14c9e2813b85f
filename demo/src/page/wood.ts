import { createNoise2D } from 'simplex-noise';

// The same noise every time: a fixed sequence in place of Math.random.
function steady(): () => number {
  let state = 20261123;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) | 0;
    return (state >>> 0) / 4294967296;
  };
}

const noise = createNoise2D(steady());

/** Red, green and blue, 0…255. */
type Colour = readonly [number, number, number];

/** A tile of wood: long grain with rings, drawn once and used as a pattern. */
export function woodTile(width: number, height: number, light: Colour, dark: Colour, grain = 1): OffscreenCanvas {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const bend = noise(x / 420, y / 160) * 1.4;
      const rings = Math.sin((y / 11) * grain + bend * 6 + noise(x / 900, y / 50) * 2);
      const fibre = noise(x / 60, y / 1.6) * 0.22;
      const mix = Math.min(1, Math.max(0, 0.5 + 0.28 * rings + fibre + 0.16 * noise(x / 700, y / 300)));
      const at = (y * width + x) * 4;
      for (let c = 0; c < 3; c++) image.data[at + c] = light[c]! + (dark[c]! - light[c]!) * mix;
      image.data[at + 3] = 255;
    }
  }
  context.putImageData(image, 0, 0);
  return canvas;
}
