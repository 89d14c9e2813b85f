import { loudnessOf, retimedSound, type SoundJob } from '@hastig/engine/analyse';
import type { Loudness } from '@hastig/core';

declare global {
  interface Window {
    /** Given by the command: takes a second of sound, 32-bit floats of both channels in turn, as base64. */
    onSound(piece: string): Promise<void>;
    makeSound(job: SoundJob): Promise<void>;
    measureLoudness(url: string, bytes: number): Promise<Record<keyof Loudness, number | null>>;
  }
}

// The least a page and a command have in common is text.
function asText(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < bytes.length; at += 32_768) text += String.fromCharCode(...bytes.subarray(at, at + 32_768));
  return btoa(text);
}

window.makeSound = async (job) => {
  for await (const [left, right] of retimedSound(job)) {
    const turns = new Float32Array(2 * left!.length);
    left!.forEach((value, n) => turns.set([value, right![n]!], 2 * n));
    await window.onSound(asText(new Uint8Array(turns.buffer)));
  }
};

window.measureLoudness = async (url, bytes) => {
  const loudness = await loudnessOf({ url, bytes, once: true });
  // What is silent has no loudness: minus infinity does not pass as a number.
  const told = (value: number): number | null => (Number.isFinite(value) ? value : null);
  return {
    integrated: told(loudness.integrated),
    range: told(loudness.range),
    momentaryMax: told(loudness.momentaryMax),
    shortTermMax: told(loudness.shortTermMax),
    truePeak: told(loudness.truePeak),
  };
};
