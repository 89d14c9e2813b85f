import {
  after,
  croppedPart,
  pictureMap,
  plainPicture,
  type Affine,
  type Program,
  type SeenPicture,
} from '@hastig/core';
import { drawDifference, drawPicture } from '../picture/draw';
import { decodersOf } from '../picture/decoders';
import type { Arrow } from '../picture/makers/maker';
import { pixelsOf, type PixelSheets } from '../picture/pixels';
import { neighboursOf } from '../picture/neighbours';
import { PictureSamples, type Studio } from '../picture/samples';

/**
 * How the picture at rest is looked at: as it is made; as it was, each picture an instant and slow parts held; both, one on
 * either side of a line; what differs between them; or where what it shows moves to.
 */
export type StageLook =
  | { kind: 'made' | 'before' | 'difference' | 'movement' }
  /** @param at where the line is, as a share of the width: what was lies left of it */
  | { kind: 'wipe'; at: number };

/** Arrows across a picture. */
const ARROWS = 48;

type Context = OffscreenCanvasRenderingContext2D;

/** Draws something left of a line. */
function drawLeftOf(context: Context, share: number, draw: () => void): void {
  const { width, height } = context.canvas;
  context.save();
  context.beginPath();
  context.rect(0, 0, Math.round(width * share), height);
  context.clip();
  draw();
  context.restore();
}

/** Where the uppermost picture lies on a canvas: from its own shares of width and height to pixels. */
function mapOfTop(
  picture: SeenPicture,
  sourceId: string,
  { frame, sizes }: Program,
  canvas: { width: number; height: number },
): Affine | undefined {
  const layer = picture.at(-1);
  if (!layer || !('sourceId' in layer.of || 'parts' in layer.of)) return undefined;
  const size = sizes[sourceId] ?? canvas;
  const outer = frame ?? size;
  const scale = Math.min(canvas.width / outer.width, canvas.height / outer.height);
  const base: Affine = [
    ...([scale, 0, 0, scale] as const),
    (canvas.width - outer.width * scale) / 2,
    (canvas.height - outer.height * scale) / 2,
  ];
  const settings = layer.settings ?? plainPicture;
  if (!croppedPart(settings, size)) return undefined;
  return after(after(base, pictureMap(settings, size, outer)), [size.width, 0, 0, size.height, 0, 0]);
}

/** Draws arrows over the uppermost picture: from where something is to where it is in the next frame; a dot where it stays. */
function drawArrows(
  context: Context,
  arrows: readonly Arrow[],
  picture: SeenPicture,
  sourceId: string,
  program: Program,
): void {
  const { width, height } = context.canvas;
  const map = mapOfTop(picture, sourceId, program, { width, height });
  if (!map) return;
  const [a, b, c, d, e, f] = map;
  const place = (x: number, y: number): [number, number] => [a * x + c * y + e, b * x + d * y + f];
  const thick = Math.max(1, width / 640);
  context.save();
  context.fillStyle = 'rgb(0 0 0 / 0.45)';
  context.fillRect(0, 0, width, height);
  context.lineWidth = 1.5 * thick;
  for (const { x, y, toX, toY, sure } of arrows) {
    const [[fromX, fromY], [endX, endY]] = [place(x, y), place(toX, toY)];
    const [dx, dy] = [endX - fromX, endY - fromY];
    const length = Math.hypot(dx, dy);
    context.strokeStyle = context.fillStyle = sure ? '#ede8df' : '#f0563a';
    if (length < 1.5 * thick) {
      context.fillRect(fromX - thick / 2, fromY - thick / 2, thick, thick);
      continue;
    }
    const [ux, uy] = [(dx / length) * 3 * thick, (dy / length) * 3 * thick];
    context.beginPath();
    // What is not believed is broken, so that it is told by more than its colour.
    context.setLineDash(sure ? [] : [2 * thick, 2 * thick]);
    context.moveTo(fromX, fromY);
    context.lineTo(endX, endY);
    context.moveTo(endX - ux - uy, endY - uy + ux);
    context.lineTo(endX, endY);
    context.lineTo(endX - ux + uy, endY - uy - ux);
    context.stroke();
  }
  context.restore();
}

/** What is drawn over the picture at rest. */
interface Over {
  draw(context: Context): void;
  close(): void;
}

const nothing: Over = { draw: () => undefined, close: () => undefined };

/**
 * Makes ready what else is seen of the picture at rest, so that it is drawn together with it.
 *
 * @param seen the picture as it is made, and as an instant
 * @throws what decoders throw
 */
export async function lookedAt(
  studio: Studio,
  sheets: PixelSheets,
  program: Program,
  look: StageLook,
  { picture, instant }: { picture: SeenPicture; instant: SeenPicture },
  signal: AbortSignal,
): Promise<Over> {
  if (look.kind === 'made' || look.kind === 'before') return nothing;
  if (look.kind === 'movement') {
    const top = decodersOf(picture).at(-1);
    if (!top) return nothing;
    const { frames } = await studio.pool.get(top.decoder);
    const { frame, share = 0, sourceId } = top.seen;
    const looks = (at: number): Promise<boolean> => studio.repeats.isRepeated(frames, at, signal);
    const between = await neighboursOf(frames, frame, share, looks);
    const { first, second } = between.share === 0 ? { first: frame, second: frame + 1 } : between;
    const last = second >= frames.frames || first === second;
    const arrows = last ? [] : await studio.betweens.movement(frames, { first, second }, ARROWS, signal);
    return { ...nothing, draw: (context) => drawArrows(context, arrows, picture, sourceId, program) };
  }
  const samples = await PictureSamples.of(studio, instant, 'frames', signal);
  const pixels = await pixelsOf(sheets, instant, samples.get);
  samples.close();
  const before = (context: Context): void => drawPicture(context, instant, program, pixels.get);
  return {
    close: pixels.close,
    draw: (context) => {
      if (look.kind === 'wipe') return drawLeftOf(context, look.at, () => before(context));
      const other = new OffscreenCanvas(context.canvas.width, context.canvas.height);
      before(other.getContext('2d', { alpha: false })!);
      drawDifference(context, other);
    },
  };
}
