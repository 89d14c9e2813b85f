import { hasPicture, levelled, LOUDNESS_OFF, takesSound, type Loudness } from '@hastig/core';
import { proxy, transfer } from 'comlink';
import { startLoudness } from '../loudness/start';
import { inWorker, startWorker, unlessBroken, WorkerGaveUp, type Running } from '../worker/handle';
import type { RenderEstimate } from './estimate';
import type { RenderJob, RenderProgress, RenderResult } from './job';
import { RenderCancelled } from './told';

/** A render that is under way. */
export interface RunningRender {
  result: Promise<RenderResult>;
  /** Ends it; `result` is then refused with an error named RenderCancelled. */
  cancel(): void;
  /** Has it wait, or go on. */
  pause(paused: boolean): void;
}

/** Times that a program is listened to until it is as loud as was asked: peaks that are limited make it less so. */
const MOST_LISTENED = 3;

type OnProgress = (progress: RenderProgress) => void;

/**
 * Renders in a worker of its own, so that stage and page stay free; where it has picture and sound, the sound is made in another
 * one, so that the picture does not wait for it. Where it is to come to a loudness, it is listened to first.
 */
export function startRender(job: RenderJob, onProgress: OnProgress): RunningRender {
  if (job.loudness === undefined || !writesSound(job)) return startWriting(job, onProgress);
  let current: { cancel(): void } | undefined;
  let writing: RunningRender | undefined;
  let [paused, ended] = [false, false];
  let giveUp: (error: Error) => void = () => undefined;
  const cancelled = new Promise<never>((_, reject) => (giveUp = reject));
  const work = async (): Promise<RenderResult> => {
    const { job: louder, loudness } = await toLoudness(job, onProgress, (listening) => (current = listening));
    if (ended) throw new RenderCancelled();
    writing = startWriting(louder, onProgress);
    if (paused) writing.pause(true);
    return { ...(await writing.result), ...(loudness !== undefined && { loudness }) };
  };
  const result = Promise.race([work(), cancelled]);
  return {
    result,
    cancel: () => {
      if (writing) return writing.cancel();
      ended = true;
      current?.cancel();
      giveUp(new RenderCancelled());
    },
    pause: (now) => {
      paused = now;
      writing?.pause(now);
    },
  };
}

/** A job whose sound comes to the loudness that is asked of it, and to which it comes; as it was where there is nothing to hear. */
async function toLoudness(
  job: RenderJob,
  onProgress: OnProgress,
  onListening: (running: Running<Loudness | null>) => void,
): Promise<{ job: RenderJob; loudness?: number }> {
  const { sources, span, channels, loudness: target = 0 } = job;
  const part = { ...(span && { span }), ...(channels && { channels }) };
  let now = job;
  let heard: number | undefined;
  for (let time = 0; time < MOST_LISTENED; time++) {
    const share = (done: number): void =>
      onProgress({ done, total: 1, framesPerSecond: 0, secondsLeft: Infinity, bytes: 0, listening: true });
    const listening = startLoudness(now.program, sources, share, part);
    onListening(listening);
    const found = await listening.result;
    if (!found || !Number.isFinite(found.integrated)) break;
    heard = found.integrated;
    if (Math.abs(heard - target) <= LOUDNESS_OFF) break;
    if (time < MOST_LISTENED - 1) now = { ...now, program: levelled(now.program, found, target) };
  }
  return { job: now, ...(heard !== undefined && { loudness: heard }) };
}

function startWriting(job: RenderJob, onProgress: OnProgress): RunningRender {
  const beside = writesSound(job) && isBeside(job) ? startSound(job) : undefined;
  const { handle, result } = unlessBroken('The render crashed.', (api) =>
    beside
      ? api.render(job, proxy(onProgress), transfer(beside.port, [beside.port]))
      : api.render(job, proxy(onProgress)),
  );
  // A worker that breaks down answers nobody: whoever waits for its sound would wait for ever.
  const broken = new Promise<never>((_, reject) =>
    beside?.onBreakdown(() => reject(new WorkerGaveUp('Making the sound crashed. Render again.'))),
  );
  const either = Promise.race([result, broken]).finally(() => {
    handle.end();
    beside?.end();
  });
  return {
    result: either,
    cancel: () => void handle.api.cancelRender(),
    pause: (paused) => void handle.api.pauseRender(paused),
  };
}

/** Whether the program's sound is made: a part may have only pictures, and what is joined was made before. */
const writesSound = ({ sound, only, parts }: RenderJob): boolean =>
  sound && !parts && (only === undefined || only === 'sound');

/** Whether a file has a picture that its sound must keep up with. */
const isBeside = ({ format }: RenderJob): boolean => hasPicture(format) && takesSound(format);

/** How long a render will take on this device, and how large it will be; found in a worker of its own. */
export const estimate = (job: RenderJob): Promise<RenderEstimate> => inWorker((api) => api.estimateRender(job));

function startSound({ program, sources }: RenderJob) {
  const handle = startWorker();
  const { port1, port2 } = new MessageChannel();
  void handle.api.serveSound(program, sources, transfer(port1, [port1]));
  return { ...handle, port: port2 };
}
