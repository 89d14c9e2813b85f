import type { OutputForm } from '@hastig/contract';
import { describeRender, startRender, type RenderJob, type RenderTarget, type RunningRender } from '@hastig/engine';
import { nanoid } from '@reduxjs/toolkit';
import { jobOf, keepJob } from './kept-jobs';
import { noteDone } from './notify';
import { noticeSet } from './session-slice';
import { renderDropped, renderEnded, renderPaused, renderProgressed, rendersQueued } from './render-slice';
import type { AppThunk } from './store';

/** A file that is asked for. */
interface WantedRender {
  /** Its name, with its ending. */
  file: string;
  job: Omit<RenderJob, 'target'>;
  /** What it was asked for by, kept with it. */
  form: OutputForm;
  /** A folder that was chosen for pictures that are files of their own; this browser's storage unless told. */
  folder?: FileSystemDirectoryHandle;
}

// Workers and what they are told cannot live in the store; one render at a time.
const wanted = new Map<string, WantedRender>();
let running: RunningRender | null = null;

/** Renders files one after the other, and goes on wherever in the program one is meanwhile. */
export function queueRenders(renders: readonly WantedRender[]): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    const queued = renders.map((render) => {
      const id = nanoid(12);
      wanted.set(id, render);
      return { id, file: render.file };
    });
    const idle = getState().render.queue.length === 0;
    dispatch(rendersQueued(queued));
    if (!idle) return;
    globalThis.addEventListener('beforeunload', warn);
    try {
      for (let [next] = getState().render.queue; next; [next] = getState().render.queue)
        await dispatch(renderNext(next.id));
    } finally {
      globalThis.removeEventListener('beforeunload', warn);
    }
    const { notify, outcomes } = getState().render;
    if (notify) noteDone(outcomes);
  };
}

/** Renders a file again as it was: the same timing, whatever was edited since, beside the one that is there. */
export function renderAgain(file: string): AppThunk<Promise<void>> {
  return async (dispatch) => {
    const kept = await jobOf(file).catch(() => undefined);
    if (kept) await dispatch(queueRenders([{ file, ...kept }]));
    else dispatch(noticeSet(`How ${file} was rendered is no longer known. Use its settings and render anew.`));
  };
}

// What is half made would be lost.
const warn = (event: BeforeUnloadEvent): void => event.preventDefault();

function targetOf({ file, folder }: WantedRender): RenderTarget {
  return folder ? { to: 'folder', folder, name: file.replace(/\.[^.]+$/, '') } : { to: 'storage', name: file };
}

function renderNext(id: string): AppThunk<Promise<void>> {
  return async (dispatch) => {
    const render = wanted.get(id)!;
    wanted.delete(id);
    try {
      running = startRender({ ...render.job, target: targetOf(render) }, (progress) =>
        dispatch(renderProgressed(progress)),
      );
      const { name, frames, seconds, took, loudness } = await running.result;
      const loud = loudness === undefined ? '' : `, ${loudness.toFixed(1).replace('-', '−')} LUFS`;
      const where = render.folder ? `${render.folder.name}/${name}` : name;
      const text = `${where} is ready: ${frames} frames, ${seconds.toFixed(2)} s${loud}, made in ${took.toFixed(1)} s.`;
      const { width, height, rate } = render.job;
      if (!render.folder) {
        const details = { form: render.form, ...{ width, height, rate, frames, seconds, took } };
        // A render is no worse for what can't be kept of it.
        await Promise.allSettled([
          describeRender(name, details),
          keepJob(name, { job: render.job, form: render.form }),
        ]);
      }
      dispatch(renderEnded({ id, text, bad: false, ...(!render.folder && { made: name }) }));
    } catch (error) {
      const cancelled = (error as Error).name === 'RenderCancelled';
      const text = cancelled
        ? `Render cancelled: ${render.file}. Nothing was saved.`
        : `The render of ${render.file} failed: ${(error as Error).message}`;
      dispatch(renderEnded({ id, text, bad: !cancelled }));
    } finally {
      running = null;
    }
  };
}

/** Ends what is being made; what waits goes on. */
export function cancelRender(): void {
  running?.cancel();
}

/** Has what is being made wait, or go on. */
export function pauseRender(paused: boolean): AppThunk {
  return (dispatch) => {
    if (!running) return;
    running.pause(paused);
    dispatch(renderPaused(paused));
  };
}

/** Takes one that waits out of the queue. */
export function dropRender(id: string): AppThunk {
  return (dispatch) => {
    wanted.delete(id);
    dispatch(renderDropped(id));
  };
}
