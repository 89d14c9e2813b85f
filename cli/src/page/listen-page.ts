import { envelopeOf } from '@hastig/engine/analyse';
import type { OnsetEnvelope } from '@hastig/core';

declare global {
  interface Window {
    /** The onset envelope of a file's sound, as plain numbers. */
    listen(url: string, bytes: number): Promise<PlainEnvelope>;
  }
}

/** An envelope as it passes from a page to the command. */
export type PlainEnvelope = Omit<OnsetEnvelope, 'bands' | 'levels'> & {
  bands: Record<'low' | 'mid' | 'high', number[]>;
  levels: Record<'low' | 'mid' | 'high', number[]>;
};

window.listen = async (url, bytes) => {
  const { bands, levels, ...times } = await envelopeOf({ url, bytes, once: true });
  const plain = (of: OnsetEnvelope['bands']) => ({
    low: Array.from(of.low),
    mid: Array.from(of.mid),
    high: Array.from(of.high),
  });
  return { ...times, bands: plain(bands), levels: plain(levels) };
};
