import type { RetimeMap } from '@hastig/contract';
import { compile, pinsOf, realFrameFloor, sourceShortages, speedAt, speedBefore, type TimeUnit } from '@hastig/core';
import { AXIS_FONT, colour, speedColour } from '../../../ui/palette';
import { drawTimeAxis } from '../../../time-view/time-axis';
import type { TimeView } from '../../../time-view/use-time-view';
import { frameToX, speedScale, speedToY, xToFrame, type CurveView } from './scale';

/** The marked range; an open end is the clip's. */
export interface Marks {
  from: number | null;
  to: number | null;
}

const SPEED_LINES = [-20, -8, -4, -2, -1, -0.5, -0.25, 0, 0.1, 0.25, 0.5, 1, 2, 4, 8, 20, 50];
/** Least pixels between two labels of the speed axis. */
const ROOM = 17;

/** Draws the speed curve with its axes and the real-frame floor. The playhead and what can be grabbed lie above it. */
export function drawCurve(
  context: OffscreenCanvasRenderingContext2D,
  map: RetimeMap,
  view: CurveView,
  unit: TimeUnit,
  marks: Marks,
): void {
  context.font = AXIS_FONT;
  drawFloor(context, map, view);
  drawShortages(context, map, view);
  drawTimeAxis(context, { rate: map.outputRate, length: compile(map).length }, view, unit);
  drawSpeedAxis(context, view);
  drawMarks(context, map, view, marks);
  drawPins(context, map, view);
  drawLine(context, map, view);
}

/** The marked range as a band, in curve and positions alike. */
export function drawMarks(
  context: OffscreenCanvasRenderingContext2D,
  map: RetimeMap,
  view: TimeView & { height: number },
  { from, to }: Marks,
): void {
  if (from === null && to === null) return;
  const [x0, x1] = [frameToX(view, from ?? 0), frameToX(view, to ?? compile(map).length)];
  context.fillStyle = colour('bone', 0.09);
  context.fillRect(x0, 0, x1 - x0, view.height);
  context.fillStyle = colour('bone', 0.8);
  if (from !== null) context.fillRect(Math.round(x0), 0, 2, view.height);
  if (to !== null) context.fillRect(Math.round(x1) - 2, 0, 2, view.height);
}

/** Where frames are pinned, as fine verticals with a ring at the foot. */
export function drawPins(
  context: OffscreenCanvasRenderingContext2D,
  map: RetimeMap,
  view: TimeView & { height: number },
): void {
  context.strokeStyle = colour('bone', 0.7);
  context.setLineDash([2, 3]);
  context.beginPath();
  for (const { output } of pinsOf(map)) {
    const x = Math.round(frameToX(view, output)) + 0.5;
    context.moveTo(x, 0);
    context.lineTo(x, view.height - 20);
  }
  context.stroke();
  context.setLineDash([]);
  for (const { output } of pinsOf(map)) {
    context.beginPath();
    context.arc(frameToX(view, output), view.height - 15, 4, 0, Math.PI * 2);
    context.stroke();
  }
}

/** The arms of the two handles of a curved part. */
export function drawArms(
  context: OffscreenCanvasRenderingContext2D,
  map: RetimeMap,
  view: CurveView,
  index: number,
): void {
  const span = map.spans[index];
  if (span?.of !== 'speed') return;
  const from = compile(map).times[index]!;
  const at = (x: number): number => frameToX(view, from + x * span.frames);
  context.strokeStyle = colour('quiet');
  context.beginPath();
  context.moveTo(at(0), speedToY(view, span.y[0]));
  context.lineTo(at(span.x[0]), speedToY(view, span.y[1]));
  context.moveTo(at(1), speedToY(view, span.y[3]));
  context.lineTo(at(span.x[1]), speedToY(view, span.y[2]));
  context.stroke();
}

/** A floor so low cannot be told from a standstill: that of sound, whose samples are a hundred times as many. */
const LEAST_FLOOR = 0.01;

function drawFloor(context: OffscreenCanvasRenderingContext2D, map: RetimeMap, view: CurveView): void {
  const floor = realFrameFloor(map.sourceRate, map.outputRate);
  if (floor < LEAST_FLOOR || floor > view.high) return;
  const [top, bottom] = [speedToY(view, floor), speedToY(view, Math.max(view.low, -floor))];
  context.fillStyle = colour('slow', 0.1);
  context.fillRect(0, top, view.width, bottom - top);
  context.strokeStyle = colour('slow', 0.9);
  context.setLineDash([5, 4]);
  context.beginPath();
  context.moveTo(0, top);
  context.lineTo(view.width, top);
  context.stroke();
  context.setLineDash([]);
  const text = `real-frame floor ${Math.round(floor * 1000) / 10}%`;
  context.textAlign = 'right';
  // Beneath the line, or as near to it as the curve and what is dragged on it leave room.
  for (const baseline of [top + 18, (top + bottom) / 2 + 4, bottom - 8]) {
    const end = freePlace(map, view, text.length * CHARACTER, baseline);
    if (end === undefined) continue;
    haloText(context, text, end, baseline, colour('slow'));
    return;
  }
}

/** Pixels kept free for the labels of the speeds at the left. */
const AXIS_ROOM = 52;
/** Pixels between two looks at where the curve runs. */
const COLUMN = 12;

/** Pixels that what is dragged on the curve reaches above and below it. */
const HANDLE_REACH = 16;

/** Where a text ends, as far to the right as the curve and its handles do not lie on it; undefined where they do everywhere. */
function freePlace(map: RetimeMap, view: CurveView, width: number, baseline: number): number | undefined {
  const ready = compile(map);
  const toY = speedScale(view);
  const lineAt = (x: number): number => toY(speedAt(ready, Math.max(0, Math.min(ready.length, xToFrame(view, x)))));
  const right = view.width - 8;
  let end = right;
  let next = lineAt(right);
  for (let x = right - COLUMN; x > AXIS_ROOM; x -= COLUMN) {
    const line = lineAt(x);
    // Between two looks the curve may fall through the text as well as run along it.
    if (Math.min(line, next) < baseline + HANDLE_REACH && Math.max(line, next) > baseline - 9 - HANDLE_REACH)
      end = x - COLUMN;
    else if (end - x >= width) return end;
    next = line;
  }
  return undefined;
}

/** Width of a character of the axis' monospaced font, in pixels. */
const CHARACTER = 6.7;

/** Text that stays readable over lines: on a patch of the ground, which costs a tenth of an outline. */
function haloText(context: OffscreenCanvasRenderingContext2D, text: string, x: number, y: number, tone: string): void {
  const width = text.length * CHARACTER;
  context.fillStyle = colour('ink', 0.75);
  context.fillRect((context.textAlign === 'right' ? x - width : x) - 2, y - 10, width + 4, 13);
  context.fillStyle = tone;
  context.fillText(text, x, y);
}

function drawShortages(context: OffscreenCanvasRenderingContext2D, map: RetimeMap, view: CurveView): void {
  context.fillStyle = colour('wrong', 0.22);
  for (const { from, frames } of sourceShortages(map)) {
    const x = frameToX(view, from);
    const width = Math.max(2, frameToX(view, from + frames) - x);
    context.fillRect(x, 0, width, view.height);
    context.fillStyle = colour('wrong');
    context.textAlign = 'left';
    context.fillText('outside source', Math.min(x + 4, view.width - 90), 12);
    context.fillStyle = colour('wrong', 0.22);
  }
}

function drawSpeedAxis(context: OffscreenCanvasRenderingContext2D, view: CurveView): void {
  context.textAlign = 'left';
  // Real time and the freeze line first: they always have their label.
  const lines = [...SPEED_LINES].sort((a, b) => rank(a) - rank(b));
  const toY = speedScale(view);
  const taken: number[] = [];
  for (const speed of lines) {
    if (speed < view.low || speed > view.high) continue;
    const y = Math.round(toY(speed)) + 0.5;
    context.strokeStyle =
      speed === 1 ? colour('quiet', 0.8) : speed === 0 ? colour('frozen', 0.7) : colour('line', 0.55);
    context.beginPath();
    context.moveTo(0, y);
    context.lineTo(view.width, y);
    context.stroke();
    if (taken.some((other) => Math.abs(other - y) < ROOM)) continue;
    taken.push(y);
    haloText(context, speed === 0 ? 'freeze' : `×${speed}`.replace('×-', '−×'), 4, y - 4, colour('quiet'));
  }
}

const rank = (speed: number): number => (speed === 1 ? 0 : speed === 0 ? 1 : 2);

/** Pixels of a curved part drawn as one straight piece: what bends could not be told from it. */
const PIECE = 3;

function drawLine(context: OffscreenCanvasRenderingContext2D, map: RetimeMap, view: CurveView): void {
  const ready = compile(map);
  const toY = speedScale(view);
  const stops = joints(ready.times, view);
  context.lineWidth = 2.5;
  context.lineJoin = 'round';
  let tone = '';
  const point = (frame: number, speed: number): void => {
    const x = frameToX(view, frame);
    const y = toY(Number.isFinite(speed) ? speed : Math.sign(speed) * 1e4);
    const next = speedColour(speed);
    context.lineTo(x, y);
    if (next !== tone) {
      context.stroke();
      context.strokeStyle = next;
      tone = next;
      context.beginPath();
      context.moveTo(x, y);
    }
  };
  context.beginPath();
  for (let i = 0; i + 1 < stops.length; i++) {
    const [from, to] = [stops[i]!, stops[i + 1]!];
    point(from, speedAt(ready, from));
    const pixels = frameToX(view, to) - frameToX(view, from);
    const pieces = isFlat(ready, from, to) ? 1 : Math.max(1, Math.min(400, Math.ceil(pixels / PIECE)));
    for (let piece = 1; piece < pieces; piece++) {
      const frame = from + ((to - from) * piece) / pieces;
      point(frame, speedAt(ready, frame));
    }
    point(to, speedBefore(ready, to));
  }
  context.stroke();
  context.lineWidth = 1;
}

function isFlat(ready: ReturnType<typeof compile>, from: number, to: number): boolean {
  const [a, b, c] = [from, (from + to) / 2, to].map((t, i) => (i === 2 ? speedBefore(ready, t) : speedAt(ready, t)));
  return a === b && b === c;
}

/** The visible ends and the joints between them; where joints lie closer than a pixel, one a pixel. */
function joints(times: Float64Array, view: CurveView): number[] {
  const length = times.at(-1)!;
  const from = Math.max(0, view.from);
  const to = Math.min(length, view.to);
  const stops = [from];
  const least = (view.to - view.from) / view.width;
  for (const time of times) {
    if (time > stops.at(-1)! + least / 2 && time < to) stops.push(time);
  }
  stops.push(to);
  return stops;
}
