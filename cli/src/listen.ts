import type { BeatAnalysis, Onset, OnsetBand } from '@hastig/core';
import { withSourcePage } from './headless-source';

// The functions that `page.evaluate` calls run in the page, where they were put by `page/listen-page.ts`.
declare const findFileBeats: (url: string, bytes: number) => Promise<BeatAnalysis>;
declare const findFileHits: (url: string, bytes: number, band?: OnsetBand) => Promise<Onset[]>;

/** The beats of a file's sound. Throws CommandFailed for what cannot be read or has no sound. */
export const fileBeats = (path: string): Promise<BeatAnalysis> =>
  withSourcePage(path, './page/listen-page.ts', (page, url, bytes) =>
    page.evaluate(([address, size]) => findFileBeats(address, size), [url, bytes] as const),
  );

/** The hits in a file's sound, of one band or of all. Throws CommandFailed for what cannot be read or has no sound. */
export const fileHits = (path: string, band?: OnsetBand): Promise<Onset[]> =>
  withSourcePage(path, './page/listen-page.ts', (page, url, bytes) =>
    page.evaluate(([address, size, only]) => findFileHits(address, size, only), [url, bytes, band] as const),
  );
