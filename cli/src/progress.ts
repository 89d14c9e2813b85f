import type { Rate } from '@hastig/contract';
import { formatTime } from '@hastig/core';
import type { RenderProgress, RenderResult } from '@hastig/engine';

/** Tells how far a render is: over and over in one line on a terminal, line by line elsewhere. */
export function showProgress({ done, total, framesPerSecond, secondsLeft, listening }: RenderProgress): void {
  const left = Number.isFinite(secondsLeft) ? `${secondsLeft.toFixed(0)} s left` : '';
  const line = listening
    ? `loudness: ${Math.round((100 * done) / total)} %`
    : `${done}/${total} frames  ${framesPerSecond.toFixed(0)} fps  ${left}`;
  process.stderr.write(process.stderr.isTTY ? `\r${line.padEnd(60)}` : `${line}\n`);
}

/** A finished file in a line. */
export function showResult(out: string, { frames, seconds, bytes, took }: RenderResult, rate: Rate): void {
  if (process.stderr.isTTY) process.stderr.write('\n');
  console.log(
    `${out}: ${frames} frames, ${seconds.toFixed(3)} s (${formatTime(frames, rate, 'timecode')}), ` +
      `${(bytes / 1e6).toFixed(2)} MB, made in ${took.toFixed(1)} s`,
  );
}
