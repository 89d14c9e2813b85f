import { benchCore } from './core';
import { benchExport } from './export';
import { line } from './line';
import { benchMemory } from './memory';
import { benchPreview } from './preview';

/** Figures of this machine, each beside a reference of the same run. They are printed, not judged. */

benchCore();
await benchExport();
for (const { shown, skipped, worstDelay, emptyPage, curve, drag } of await benchPreview(4)) {
  line(
    '720p preview at 30 fps, −2 … 4',
    `${shown} shown, ${skipped} skipped, worst delay ${worstDelay.toFixed(0)} ms (empty page: ${emptyPage} animation frames a second)`,
  );
  line(
    'a bead, dragged',
    `${drag.frames.toFixed(0)} animation frames a second, longest task ${drag.longestTask.toFixed(0)} ms`,
  );
  line('the curve, drawn', `median ${curve.median.toFixed(1)} ms, slowest ${curve.slowest.toFixed(1)} ms`);
}
await benchMemory([10, 60, 600]);
