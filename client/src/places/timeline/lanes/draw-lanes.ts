import type { ProjectDocument } from '@hastig/contract';
import {
  compile,
  findSource,
  framesOf,
  itemAt,
  mainFrame,
  pictureBy,
  positionBefore,
  programOf,
  speedAt,
  type Program,
  type ProgramItem,
} from '@hastig/core';
import { drawPictureIn, type Drawable, type Thumbs, type WantedThumb } from '@hastig/engine';
import { drawWave } from '../../../sound/draw-wave';
import type { Waveforms } from '../../../sound/use-waveforms';
import { colour, speedColour } from '../../../ui/palette';
import { xToFrame, type TimeView } from '../../../time-view/use-time-view';
import { itemsInSight, type Lane, type SeenItem } from './lanes-view';

/** Pixels of a clip's strip of speeds, and of each shade in it. */
const STRIP = 6;
const SHADE = 3;
/** Pixels of a clip from which a small picture in it shows anything. */
const LEAST_PICTURE = 10;
/** Pixels of a clip's line with its name. */
export const NAME_LINE = 18;

/** What of the timeline is drawn, and with what. */
interface LanesDrawing {
  project: ProjectDocument;
  containerId: string;
  lanes: readonly Lane[];
  view: TimeView;
  thumbs: Thumbs | null;
  waves: Waveforms;
  aspect: number;
}

/**
 * Draws what lies on the lanes: small pictures, and each clip's speeds along its foot. Names and edges are elements above.
 *
 * @returns the small pictures it would like to have
 */
export function drawLanes(context: OffscreenCanvasRenderingContext2D, drawing: LanesDrawing): WantedThumb[] {
  const { project, containerId, lanes, view } = drawing;
  const program = programOf(project, containerId);
  const wishes: Wish[] = [];
  // Tracks that are off are not in the program; they stay plain.
  const on = lanes.map(({ index, track }) => ({ index, off: track.off })).filter(({ off }) => !off);
  const order = [...on].sort((a, b) => a.index - b.index).map(({ index }) => index);
  for (const lane of lanes) {
    context.fillStyle = colour('raised', 0.55);
    context.fillRect(0, lane.top, view.width, lane.height);
    const track = program.tracks[order.indexOf(lane.index)];
    let column = NaN;
    for (const item of itemsInSight(project, lane.track, view)) {
      // Of many in one column of pixels, one is enough to be seen.
      if (!item.clip || (item.width < 1 && Math.floor(item.x) === column)) continue;
      column = Math.floor(item.x);
      context.fillStyle = colour(lane.track.kind === 'picture' ? 'line' : 'raised');
      context.fillRect(item.x + 1, lane.top, Math.max(1, item.width - 2), lane.height);
      const played = track && itemAt(track, item.from);
      if (!played) continue;
      if (lane.track.kind === 'sound') drawSound(context, drawing, played, item, lane);
      if (lane.track.kind === 'picture' && item.width >= LEAST_PICTURE)
        wishes.push(...drawPictures(context, drawing, program, played, item, lane));
      drawSpeeds(context, played, item, lane, view);
    }
  }
  const middle = view.width / 2;
  return wishes
    .sort((a, b) => Math.abs(a.x - middle) - Math.abs(b.x - middle))
    .map(({ sourceId, frame, tolerance }) => ({ sourceId, frame, tolerance }));
}

// As it will be heard: each column the source that passes in it, however fast and whichever way.
function drawSound(
  context: OffscreenCanvasRenderingContext2D,
  { project, view, waves }: LanesDrawing,
  { of, map, at }: ProgramItem,
  item: SeenItem,
  lane: Lane,
): void {
  const source = of.kind === 'source' ? findSource(project, of.id) : undefined;
  if (!source) return;
  const ready = compile(map);
  const box = { x: item.x + 1, width: item.width - 2, top: lane.top + NAME_LINE };
  context.fillStyle = colour('quiet');
  const positionAtX = (x: number): number =>
    positionBefore(ready, Math.min(ready.length, Math.max(0, at + xToFrame(view, x) - item.from)));
  drawWave(context, { ...box, height: lane.height - NAME_LINE - STRIP }, view.width, (x) =>
    waves.between(source, positionAtX(x), positionAtX(x + 1)),
  );
}

interface Wish extends WantedThumb {
  x: number;
}

function drawPictures(
  context: OffscreenCanvasRenderingContext2D,
  { view, thumbs, aspect }: LanesDrawing,
  program: Program,
  played: ProgramItem,
  item: SeenItem,
  lane: Lane,
): Wish[] {
  const [top, height] = [lane.top + NAME_LINE, lane.height - NAME_LINE - STRIP];
  const wide = height * aspect;
  // Pixels of the screen for one of the page.
  const ratio = context.getTransform().a;
  const step = ((view.to - view.from) / view.width) * wide;
  const wishes: Wish[] = [];
  const first = Math.max(0, Math.floor(-item.x / wide));
  for (let cell = first; cell * wide < item.width && item.x + cell * wide < view.width; cell++) {
    const x = item.x + cell * wide;
    const picture = pictureBy(program, played, Math.floor(item.from + cell * step));
    const frames = framesOf(picture);
    for (const { sourceId, frame } of frames) wishes.push({ sourceId, frame, tolerance: Math.floor(step / 4), x });
    const small = new Map(frames.map((seen) => [seen, thumbs?.get(seen.sourceId, seen.frame, 2 * step)]));
    const shown = Math.min(wide, item.width - cell * wide - 1);
    if (frames.length === 0 || shown <= 1 || [...small.values()].some((bitmap) => !bitmap)) continue;
    context.save();
    context.beginPath();
    context.rect(x + 1, top, shown - 1, height);
    context.clip();
    const box = { x: (x + 1) * ratio, y: top * ratio, width: (wide - 1) * ratio, height: height * ratio };
    drawPictureIn(context, box, picture, program, (leaf) => drawable(small.get(mainFrame(leaf))!));
    context.restore();
  }
  return wishes;
}

function drawable(bitmap: ImageBitmap): Drawable {
  return {
    displayWidth: bitmap.width,
    displayHeight: bitmap.height,
    draw: (context: OffscreenCanvasRenderingContext2D, ...box: number[]) =>
      context.drawImage(bitmap, ...(box as [number, number, number, number])),
  };
}

function drawSpeeds(
  context: OffscreenCanvasRenderingContext2D,
  played: ProgramItem,
  item: SeenItem,
  lane: Lane,
  view: TimeView,
): void {
  const y = lane.top + lane.height - STRIP;
  if (item.width < SHADE + 2) {
    context.fillStyle = speedColour(speedAt(played.map, played.at + (item.to - item.from) / 2));
    context.fillRect(item.x, y, Math.max(1, item.width - 1), STRIP);
    return;
  }
  const start = Math.max(0, item.x + 1);
  for (let x = start; x < Math.min(view.width, item.x + item.width - 1); x += SHADE) {
    const speed = speedAt(played.map, played.at + xToFrame(view, x) - item.from);
    context.fillStyle = speedColour(speed);
    context.fillRect(x, y, Math.min(SHADE, item.x + item.width - 1 - x), STRIP);
    drawSign(context, speed, x, y);
  }
}

// Never colour alone: backwards has notches to the left, a freeze is hatched.
function drawSign(context: OffscreenCanvasRenderingContext2D, speed: number, x: number, y: number): void {
  const place = Math.round(x / SHADE) % 4;
  if (speed < 0 && place === 0) {
    context.fillStyle = colour('ink');
    context.beginPath();
    context.moveTo(x + 3, y + 1);
    context.lineTo(x, y + STRIP / 2);
    context.lineTo(x + 3, y + STRIP - 1);
    context.fill();
  } else if (Math.abs(speed) < 1e-9 && place % 2 === 0) {
    context.fillStyle = colour('ink', 0.6);
    context.fillRect(x, y, 1, STRIP);
  }
}
