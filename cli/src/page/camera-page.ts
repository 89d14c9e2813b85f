import type { Counting, Fields } from '@hastig/contract';
import { findCamera, type CameraQuestion } from '@hastig/engine/analyse';

/** A file, and how its frames are counted. */
export interface TakenFile {
  url: string;
  bytes: number;
  fields: Fields;
  counting: Counting;
}

declare global {
  interface Window {
    /** Given by the command: hears how many frames are done. */
    onAnalysed(frames: number): void;
    /** Tells how a clip's camera moves. */
    cameraOfClip(file: TakenFile, question: CameraQuestion): Promise<number[]>;
  }
}

/** Frames after which is told again how many are done. */
const TELL_EVERY = 20;

window.cameraOfClip = (file, question) =>
  findCamera(file, question, (done) => {
    if (done % TELL_EVERY === 0) window.onAnalysed(done);
  });
