import type { OnsetEnvelope } from '@hastig/core';
import { withSourcePage } from './headless-source';
import type { PlainEnvelope } from './page/listen-page';

// The function that `page.evaluate` calls runs in the page, where `listen` was put by `page/listen-page.ts`.
declare const listen: (url: string, bytes: number) => Promise<PlainEnvelope>;

/** The onset envelope of a file's sound. Throws CommandFailed for what cannot be read or has no sound. */
export async function listenTo(path: string): Promise<OnsetEnvelope> {
  const { bands, levels, ...times } = await withSourcePage(path, './page/listen-page.ts', (page, url, bytes) =>
    page.evaluate(([address, size]) => listen(address, size), [url, bytes] as const),
  );
  const typed = ({ low, mid, high }: PlainEnvelope['bands']) => ({
    low: Float32Array.from(low),
    mid: Float32Array.from(mid),
    high: Float32Array.from(high),
  });
  return { ...times, bands: typed(bands), levels: typed(levels) };
}
