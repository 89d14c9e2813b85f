import type { BeatAnalysis, Onset, OnsetBand } from '@hastig/core';
import { beatsOf, hitsOf } from '@hastig/engine/analyse';

declare global {
  interface Window {
    findFileBeats(url: string, bytes: number): Promise<BeatAnalysis>;
    findFileHits(url: string, bytes: number, band?: OnsetBand): Promise<Onset[]>;
  }
}

window.findFileBeats = (url, bytes) => beatsOf({ url, bytes, once: true });
window.findFileHits = (url, bytes, band) => hitsOf({ url, bytes, once: true }, band);
