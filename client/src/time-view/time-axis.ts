import type { Rate } from '@hastig/contract';
import { countingBase, formatMoment, rateToNumber, type TimeUnit } from '@hastig/core';
import { colour } from '../ui/palette';
import { frameToX, type TimeView } from './use-time-view';

/** Least pixels between two times. */
const ROOM = 74;

/** Steps of the time axis below and from one second, in frames and in seconds. */
const FRAME_STEPS = [1, 2, 5, 10];
const SECOND_STEPS = [0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1800, 3600];

/** Steps between two frames, in milliseconds. */
const FINE_STEPS = [0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20];

function timeStep(base: number, least: number): number {
  const steps = [...FRAME_STEPS.filter((step) => step < base / 2), ...SECOND_STEPS.map((step) => step * base)];
  return (
    steps.find((step) => step >= least && Number.isInteger(step)) ?? Math.ceil(least / (3600 * base)) * 3600 * base
  );
}

/** Times closer than frames, in seconds: step and decimals; undefined where whole frames are far enough apart. */
function fineStep(perSecond: number, least: number): { seconds: number; decimals: number } | undefined {
  const found = FINE_STEPS.find((step) => (step / 1000) * perSecond >= least);
  if (found === undefined || (found / 1000) * perSecond >= 1) return undefined;
  return { seconds: found / 1000, decimals: found < 0.1 ? 5 : found < 1 ? 4 : 3 };
}

/** Verticals at round times, their times beneath, and what lies past the end (`length` frames) dimmed. */
export function drawTimeAxis(
  context: OffscreenCanvasRenderingContext2D,
  { rate, length }: { rate: Rate; length: number },
  view: TimeView & { height: number },
  unit: TimeUnit,
): void {
  const perPixel = (view.to - view.from) / view.width;
  const perSecond = rateToNumber(rate);
  const fine = fineStep(perSecond, ROOM * perPixel);
  const step = fine ? fine.seconds * perSecond : timeStep(countingBase(rate), ROOM * perPixel);
  context.textAlign = 'left';
  const last = Math.min(view.to, length);
  for (let index = Math.max(0, Math.ceil(view.from / step)); index * step <= last; index++) {
    const frame = index * step;
    const x = Math.round(frameToX(view, frame)) + 0.5;
    context.strokeStyle = colour('line', 0.7);
    context.beginPath();
    context.moveTo(x, 0);
    context.lineTo(x, view.height);
    context.stroke();
    if (x > view.width - 40) continue;
    context.fillStyle = colour('quiet');
    const text = fine ? `${(index * fine.seconds).toFixed(fine.decimals)} s` : formatMoment(frame, rate, unit);
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
