import type { Rate } from '@hastig/contract';
import { countingBase, formatMoment, type TimeUnit } from '@hastig/core';
import { colour } from '../ui/palette';
import { frameToX, type TimeView } from './use-time-view';

/** Least pixels between two times. */
const ROOM = 74;

/** Steps of the time axis below and from one second, in frames and in seconds. */
const FRAME_STEPS = [1, 2, 5, 10];
const SECOND_STEPS = [0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600];

function timeStep(base: number, least: number): number {
  const steps = [...FRAME_STEPS.filter((step) => step < base / 2), ...SECOND_STEPS.map((step) => step * base)];
  return (
    steps.find((step) => step >= least && Number.isInteger(step)) ?? Math.ceil(least / (3600 * base)) * 3600 * base
  );
}

/** Verticals at round times, their times beneath, and what lies past the end (`length` frames) dimmed. */
export function drawTimeAxis(
  context: OffscreenCanvasRenderingContext2D,
  { rate, length }: { rate: Rate; length: number },
  view: TimeView & { height: number },
  unit: TimeUnit,
): void {
  const perPixel = (view.to - view.from) / view.width;
  const step = timeStep(countingBase(rate), ROOM * perPixel);
  context.textAlign = 'left';
  for (let frame = Math.max(0, Math.ceil(view.from / step) * step); frame <= Math.min(view.to, length); frame += step) {
    const x = Math.round(frameToX(view, frame)) + 0.5;
    context.strokeStyle = colour('line', 0.7);
    context.beginPath();
    context.moveTo(x, 0);
    context.lineTo(x, view.height);
    context.stroke();
    if (x > view.width - 40) continue;
    context.fillStyle = colour('quiet');
    const text = formatMoment(frame, rate, unit);
    context.fillText(unit === 'timecode' ? text.replace(/^00:/, '') : text, x + 4, view.height - 6);
  }
  const end = frameToX(view, length);
  if (end < view.width) {
    context.fillStyle = colour('ink', 0.5);
    context.fillRect(end, 0, view.width - end, view.height);
    context.fillStyle = colour('quiet');
    context.fillRect(Math.round(end), 0, 1, view.height);
  }
}
