import type { Punctuality } from '@hastig/engine';
import { benchBeats } from './beats';
import { benchCore } from './core';
import { benchExport } from './export';
import { benchExposures } from './exposures';
import { CURVE_MAY_TAKE, type Times } from './drawings';
import { benchJobs } from './jobs';
import { benchManyJobs } from './many-jobs';
import { benchLarge } from './large';
import { benchLongFilm } from './long-film';
import { line } from './line';
import { benchFilm } from './film-page';
import { benchFlow } from './flow';
import { benchForms } from './forms';
import { benchFollow } from './follow';
import { benchFootage } from './footage';
import { benchSound } from './sound';
import { benchSync } from './sync';
import { benchTimeline } from './timeline';
import { benchWide } from './wide';
import { benchLapse, benchMemory } from './memory';
import { benchPreview } from './preview';

/** Figures of this machine, each beside a reference of the same run. They are printed, not judged. */

const punctual = ({ shown, skipped, worstDelay }: Punctuality): string =>
  `${shown} shown, ${skipped} skipped, worst delay ${worstDelay.toFixed(0)} ms`;

async function benchPlaying(): Promise<void> {
  for (const { played, nothing, curve, drag } of await benchPreview(4)) {
    line(
      '720p preview at 30 fps, −2 … 4',
      `${punctual(played)} (a worker that plays nothing, just before: ${punctual(nothing)})`,
    );
    line('a bead, dragged', `${drag.frames.toFixed(0)} animation fps, longest task ${drag.longestTask.toFixed(0)} ms`);
    const times = ({ median, longest, over }: Times): string =>
      `median ${median.toFixed(1)} ms, longest ${longest.toFixed(1)}, ${over} over ${CURVE_MAY_TAKE} ms`;
    line(
      `the curve, drawn ${curve.count} times`,
      `${times(curve.worked)} (by the clock on the wall, waits for a core in it: ${times(curve.passed)})`,
    );
  }
}

const benches: Record<string, () => void | Promise<void>> = {
  core: benchCore,
  beats: benchBeats,
  sound: benchSound,
  timeline: benchTimeline,
  export: benchExport,
  forms: benchForms,
  exposures: benchExposures,
  flow: benchFlow,
  follow: benchFollow,
  preview: benchPlaying,
  sync: benchSync,
  film: () => benchFilm(3),
  wide: benchWide,
  large: benchLarge,
  'long-film': benchLongFilm,
  jobs: benchJobs,
  'many-jobs': benchManyJobs,
  footage: benchFootage,
  memory: () => benchMemory([10, 600]),
  lapse: benchLapse,
};

// All, or those whose names are given.
const wanted = process.argv.slice(2);
for (const [name, bench] of Object.entries(benches)) if (wanted.length === 0 || wanted.includes(name)) await bench();
