import type { RetimeMap } from '@hastig/contract';
import { compile, firstFrame, positionAt, positionBefore, speedAt, type TimeUnit } from '@hastig/core';
import { AXIS_FONT, colour, speedColour } from '../../../ui/palette';
import { drawTimeAxis } from '../../../time-view/time-axis';
import { drawMarks, drawPins, type Marks } from '../curve/draw';
import { frameToX } from '../../../time-view/use-time-view';
import { handlePlace, positionToY, type PositionView } from './position-view';

const STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000, 20_000, 50_000, 100_000];
const ROOM = 26;

/** Draws source positions over output time, with its axes. */
export function drawPositions(
  context: OffscreenCanvasRenderingContext2D,
  map: RetimeMap,
  view: PositionView,
  unit: TimeUnit,
  marks: Marks,
  selected: number | null,
): void {
  context.font = AXIS_FONT;
  drawTimeAxis(context, { rate: map.outputRate, length: compile(map).length }, view, unit);
  drawSourceAxis(context, map, view, unit);
  drawMarks(context, map, view, marks);
  drawPins(context, map, view);
  drawCourse(context, map, view);
  if (selected !== null && map.spans[selected]?.of === 'position') drawArms(context, map, view, selected);
}

function drawSourceAxis(
  context: OffscreenCanvasRenderingContext2D,
  map: RetimeMap,
  view: PositionView,
  unit: TimeUnit,
): void {
  const perPixel = (view.high - view.low) / Math.max(1, view.height);
  const step = STEPS.find((one) => one / perPixel >= ROOM) ?? STEPS.at(-1)!;
  context.textAlign = 'left';
  for (let source = Math.ceil(view.low / step) * step; source <= view.high; source += step) {
    const y = Math.round(positionToY(view, source)) + 0.5;
    context.strokeStyle = colour('line', 0.6);
    context.beginPath();
    context.moveTo(0, y);
    context.lineTo(view.width, y);
    context.stroke();
    context.fillStyle = source >= 0 && source <= map.sourceFrames ? colour('quiet') : colour('wrong');
    context.fillText(String(source + firstFrame(unit)), 4, y - 3);
  }
}

function drawCourse(context: OffscreenCanvasRenderingContext2D, map: RetimeMap, view: PositionView): void {
  const ready = compile(map);
  context.lineWidth = 2.5;
  context.lineJoin = 'round';
  for (let index = 0; index < ready.count; index++) {
    const [from, to] = [ready.times[index]!, ready.times[index + 1]!];
    if (to < view.from || from > view.to) continue;
    const pixels = frameToX(view, Math.min(to, view.to)) - frameToX(view, Math.max(from, view.from));
    const pieces = Math.max(1, Math.min(300, Math.ceil(pixels / 3)));
    context.beginPath();
    context.strokeStyle = speedColour(speedAt(ready, (from + to) / 2));
    for (let piece = 0; piece <= pieces; piece++) {
      const t = from + ((to - from) * piece) / pieces;
      const position = piece === pieces ? positionBefore(ready, to) : positionAt(ready, t);
      context.lineTo(frameToX(view, t), positionToY(view, position));
    }
    context.stroke();
    drawJump(context, ready, view, index);
  }
  context.lineWidth = 1;
}

// A cut in the source: a fine broken line down or up to where it goes on.
function drawJump(
  context: OffscreenCanvasRenderingContext2D,
  ready: ReturnType<typeof compile>,
  view: PositionView,
  index: number,
): void {
  if (!ready.map.spans[index]!.jump) return;
  const x = frameToX(view, ready.times[index]!);
  context.save();
  context.lineWidth = 1;
  context.strokeStyle = colour('quiet');
  context.setLineDash([2, 3]);
  context.beginPath();
  context.moveTo(x, positionToY(view, index > 0 ? ready.ends[index - 1]! : ready.map.start));
  context.lineTo(x, positionToY(view, ready.positions[index]!));
  context.stroke();
  context.restore();
}

function drawArms(context: OffscreenCanvasRenderingContext2D, map: RetimeMap, view: PositionView, index: number): void {
  const { times, positions, ends } = compile(map);
  const joints = [
    { x: frameToX(view, times[index]!), y: positionToY(view, positions[index]!) },
    { x: frameToX(view, times[index + 1]!), y: positionToY(view, ends[index]!) },
  ];
  context.strokeStyle = colour('quiet');
  context.beginPath();
  ([0, 1] as const).forEach((which) => {
    const { x, y } = handlePlace(map, view, index, which);
    context.moveTo(joints[which]!.x, joints[which]!.y);
    context.lineTo(x, y);
  });
  context.stroke();
}
