import { derivedKinds, type DerivedKind } from '@hastig/contract';
import type { DeriveJob, DeriveProgress, Maker } from './job';
import { motionMaker } from './motion';
import { onsetsMaker } from './onsets';
import { peaksMaker } from './peaks';
import { missingPieces } from './pieces';
import { proxyMaker } from './proxy';

const makers: Record<DerivedKind, (job: DeriveJob) => Promise<Maker>> = {
  proxy: proxyMaker,
  peaks: peaksMaker,
  onsets: onsetsMaker,
  motion: motionMaker,
};

/** Milliseconds between two words of progress. */
const TELL_EVERY = 200;

/**
 * Makes what is missing of something derived from a source, piece by piece, and sends each when it is whole.
 *
 * @throws RefusedMedia, what decoder or encoder throw, an Error with the server's reason; an AbortError when `signal` is
 */
export async function derive(
  job: DeriveJob,
  onProgress: (progress: DeriveProgress) => void,
  signal: AbortSignal,
): Promise<void> {
  const maker = await makers[job.kind](job);
  try {
    const { total, perPiece } = maker;
    const missing = missingPieces(total, perPiece, job.there, job.near);
    let done = total - missing.reduce((sum, { start, end }) => sum + end - start, 0);
    let told = 0;
    for (const span of missing) {
      const content = await maker.make(
        span,
        (count) => {
          const now = performance.now();
          if (now - told < TELL_EVERY) return;
          told = now;
          onProgress({ done: done + count, total });
        },
        signal,
      );
      const response = await fetch(`${job.address}/${span.piece}`, {
        method: 'PUT',
        headers: { 'Content-Type': derivedKinds[job.kind].mime },
        body: content,
        signal,
      });
      if (!response.ok) throw new Error(await reasonOf(response));
      done += span.end - span.start;
      onProgress({ done, total, sent: { piece: span.piece, bytes: content.byteLength } });
    }
  } finally {
    await maker.close();
  }
}

async function reasonOf(response: Response): Promise<string> {
  const problem = (await response.json().catch(() => ({}))) as { title?: string; detail?: string };
  return problem.detail ?? problem.title ?? `The server answered ${response.status}.`;
}
