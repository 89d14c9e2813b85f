import type { PictureSettings } from '@hastig/contract';
import { mainFrame, plainPicture, type SeenFrame, type SeenLayer, type SeenLeaf } from '@hastig/core';
import { drawPicture, type Drawable } from './draw';

/** A canvas' context that notes what is drawn, as the map in force, the opacity, and the parts. */
class Notes {
  readonly lines: string[] = [];
  globalAlpha = 1;
  fillStyle = '';
  private map: number[] = [1, 0, 0, 1, 0, 0];
  private readonly kept: [number, number[]][] = [];

  constructor(
    readonly canvas: { width: number; height: number },
    private readonly name = '',
  ) {}

  save(): void {
    this.kept.push([this.globalAlpha, this.map]);
  }
  restore(): void {
    [this.globalAlpha, this.map] = this.kept.pop()!;
  }
  setTransform(...map: number[]): void {
    this.map = map;
  }
  beginPath(): void {
    this.note('path');
  }
  rect(...box: number[]): void {
    this.note(`rect ${box.join(' ')}`);
  }
  clip(): void {
    this.note('clip');
  }
  fillRect(): void {
    this.note('black');
  }
  drawImage(): void {
    this.note(`sheet at ${this.map.join(' ')} α ${this.globalAlpha}`);
  }
  draw(what: string, parts: readonly number[]): void {
    this.note(
      `${what} at ${this.map.map((one) => Math.round(one * 1000) / 1000).join(' ')} α ${this.globalAlpha}: ${parts.join(' ')}`,
    );
  }
  private note(line: string): void {
    if (!/^(path|rect|clip)/.test(line)) this.lines.push(this.name + line);
  }
}

const seen = (sourceId: string): SeenFrame => ({ sourceId, frame: 0, clipId: 'c' });
const settings = (change: Partial<PictureSettings>): PictureSettings => ({ ...plainPicture, ...change });
const sizes = {
  frame: { width: 100, height: 50 },
  sizes: { a: { width: 100, height: 50 }, b: { width: 40, height: 40 } },
};

function drawn(picture: readonly SeenLayer[], width = 200, height = 100, shrunk = 1): string[] {
  const notes = new Notes({ width, height });
  const drawable = (leaf: SeenLeaf): Drawable => {
    const { sourceId } = mainFrame(leaf);
    const size = sizes.sizes[sourceId as 'a' | 'b'];
    return {
      displayWidth: size.width / shrunk,
      displayHeight: size.height / shrunk,
      draw: (context: unknown, ...parts: number[]) => (context as Notes).draw(sourceId, parts),
    };
  };
  globalThis.OffscreenCanvas = class {
    constructor(
      readonly width: number,
      readonly height: number,
    ) {}
    getContext(): Notes {
      const sheet = new Notes(this, 'on a sheet: ');
      sheet.lines.push = (...lines) => notes.lines.push(...lines);
      return sheet;
    }
  } as unknown as typeof OffscreenCanvas;
  drawPicture(notes as unknown as OffscreenCanvasRenderingContext2D, picture, sizes, drawable);
  return notes.lines;
}

describe('drawing a picture', () => {
  it('that is one whole frame takes the short way', () => {
    expect(drawn([{ of: seen('a') }])).toEqual(['a at 1 0 0 1 0 0 α 1: 0 0 200 100']);
    // Another shape: black beside it.
    expect(drawn([{ of: seen('b') }])).toEqual(['black', 'b at 1 0 0 1 0 0 α 1: 50 0 100 100']);
  });

  it('of nothing is black', () => {
    expect(drawn([])).toEqual(['black']);
  });

  it('of layers begins with the lowest, each where it lies', () => {
    const small = settings({ scale: 0.5, x: 0.25, y: -0.25, opacity: 0.8 });
    expect(drawn([{ of: seen('a') }, { of: seen('a'), settings: small }])).toEqual([
      'black',
      'a at 2 0 0 2 0 0 α 1: 0 0 100 50 0 0 100 50',
      'a at 1 0 0 1 100 0 α 0.8: 0 0 100 50 0 0 100 50',
    ]);
  });

  it('takes the same part of a smaller copy', () => {
    const cropped = settings({ crop: { left: 0.2, top: 0, right: 0, bottom: 0 } });
    expect(drawn([{ of: seen('a'), settings: cropped }], 100, 50, 2)[1]).toBe(
      'a at 1 0 0 1 0 0 α 1: 10 0 40 25 20 0 80 50',
    );
  });

  it('puts a group that is seen through together first', () => {
    const half = settings({ opacity: 0.5, scale: 0.5 });
    const group = { of: [{ of: seen('a') }, { of: seen('b') }], settings: half };
    expect(drawn([group], 100, 50)).toEqual([
      'black',
      'on a sheet: a at 0.5 0 0 0.5 25 12.5 α 1: 0 0 100 50 0 0 100 50',
      'on a sheet: b at 0.625 0 0 0.625 37.5 12.5 α 1: 0 0 40 40 0 0 40 40',
      'sheet at 1 0 0 1 0 0 α 0.5',
    ]);
    // A single layer is seen through as well alone.
    expect(drawn([{ of: [{ of: seen('a') }], settings: half }], 100, 50)[1]).toMatch(/^a at .* α 0\.5:/);
  });

  it('lays the frame in the middle of a canvas of another shape', () => {
    expect(drawn([{ of: seen('a'), settings: settings({ mirror: 'across' }) }], 100, 100)[1]).toBe(
      'a at -1 0 0 1 100 25 α 1: 0 0 100 50 0 0 100 50',
    );
  });
});
