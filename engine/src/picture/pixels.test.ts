import type { VideoSample } from 'mediabunny';
import { PixelSheets } from './pixels';

/** What is drawn of surfaces, as their size, the part that is taken, and where it goes. */
let drawn: string[];

class Surface {
  static made = 0;
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    Surface.made++;
  }
  getContext() {
    return { canvas: this, putImageData: () => undefined };
  }
}

class Pixels {
  readonly data: Uint8ClampedArray;
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.data = new Uint8ClampedArray(width * height * 4);
  }
}

/** Stands for a canvas' context; where it is turned it notes the turn. */
const context = {
  save: () => undefined,
  restore: () => undefined,
  translate: (x: number, y: number) => drawn.push(`to ${x} ${y}`),
  rotate: (angle: number) => drawn.push(`turned ${Math.round((angle * 180) / Math.PI)}`),
  drawImage: ({ width, height }: Surface, ...box: number[]) => drawn.push(`${width}×${height}: ${box.join(' ')}`),
} as unknown as OffscreenCanvasRenderingContext2D;

let open = 0;

function sample(change: Partial<Record<keyof VideoSample, unknown>> = {}): VideoSample {
  open++;
  const one = {
    ...{ format: 'I420', visibleRect: { left: 0, top: 0, width: 40, height: 20 }, rotation: 0 },
    ...{ displayWidth: 40, displayHeight: 20, squarePixelWidth: 40, squarePixelHeight: 20 },
    allocationSize: () => 40 * 20 * 4,
    copyTo: () => Promise.resolve([]),
    clone: () => sample(change),
    close: () => open--,
    draw: () => drawn.push('the frame itself'),
    ...change,
  };
  return one as unknown as VideoSample;
}

beforeEach(() => {
  drawn = [];
  open = 0;
  Surface.made = 0;
  Object.assign(globalThis, { OffscreenCanvas: Surface, ImageData: Pixels });
});

async function draw(one: VideoSample, ...box: number[]): Promise<string[]> {
  const pixels = await new PixelSheets().of(one);
  one.close();
  pixels.draw(context, ...(box as [number, number, number, number]));
  pixels.close();
  expect(open).toBe(0);
  return drawn;
}

describe('a frame brought to pixels', () => {
  it('is drawn whole or in part', async () => {
    expect(await draw(sample(), 5, 6, 80, 40)).toEqual(['40×20: 0 0 40 20 5 6 80 40']);
    expect((await draw(sample(), 10, 5, 20, 10, 0, 0, 40, 20)).at(-1)).toBe('40×20: 10 5 20 10 0 0 40 20');
  });

  it('is as wide as its pixels are wide', async () => {
    const wide = { displayWidth: 60, squarePixelWidth: 60 };
    expect(await draw(sample(wide), 30, 0, 30, 20, 0, 0, 30, 20)).toEqual(['40×20: 20 0 20 20 0 0 30 20']);
  });

  it.each([
    // A part at the left of what is seen, by how far the file is to be turned clockwise.
    [90, ['to 25 50', 'turned 90', '40×20: 0 15 40 5 -50 -25 100 50']],
    [180, ['to 25 50', 'turned 180', '40×20: 30 0 10 20 -25 -50 50 100']],
    [270, ['to 25 50', 'turned 270', '40×20: 0 0 40 5 -50 -25 100 50']],
  ] as const)('is turned by %i degrees, with the part of it that is seen', async (rotation, wanted) => {
    const [displayWidth, displayHeight] = rotation === 180 ? [40, 20] : [20, 40];
    const part = rotation === 180 ? [0, 0, 10, 20] : [0, 0, 5, 40];
    expect(await draw(sample({ rotation, displayWidth, displayHeight }), ...part, 0, 0, 50, 100)).toEqual(wanted);
  });

  it('is drawn as it is where the browser does not hand out its pixels', async () => {
    for (const odd of [
      { format: null },
      { format: 'RGBA' },
      { allocationSize: () => 1200 },
      { copyTo: () => Promise.reject(new Error('no')) },
    ]) {
      expect((await draw(sample(odd), 0, 0, 8, 4)).at(-1)).toBe('the frame itself');
    }
  });

  it('uses the same surface again', async () => {
    const sheets = new PixelSheets();
    for (let n = 0; n < 5; n++) (await sheets.of(sample())).close();
    expect(Surface.made).toBe(1);
    const both = await Promise.all([sheets.of(sample()), sheets.of(sample())]);
    expect(Surface.made).toBe(2);
    both.forEach((one) => one.close());
  });
});
