import type { TrackedPoint } from '@hastig/core';
import { trackBox, type TrackQuestion } from '@hastig/engine/analyse';

declare global {
  interface Window {
    /** Given by the command: hears how many frames are done. */
    onTracked(frames: number): void;
    /** Follows what a box shows through a clip. */
    trackClip(url: string, bytes: number, question: TrackQuestion): Promise<TrackedPoint[]>;
  }
}

/** Frames after which is told again how many are done. */
const TELL_EVERY = 20;

window.trackClip = (url, bytes, question) =>
  trackBox({ url, bytes }, question, (done) => {
    if (done % TELL_EVERY === 0) window.onTracked(done);
  });
