import { startRender, type RenderJob, type RunningRender } from '@hastig/engine';
import { renderEnded, renderProgressed, renderStarted } from './render-slice';
import type { AppThunk } from './store';

// A worker cannot live in the store; one render at a time.
let running: RunningRender | null = null;

/** Renders to a file of this browser, and goes on wherever in the program one is meanwhile. */
export function renderClip(file: string, order: Omit<RenderJob, 'target'>): AppThunk<Promise<void>> {
  return async (dispatch) => {
    if (running) return;
    dispatch(renderStarted(file));
    running = startRender({ ...order, target: { to: 'storage', name: file } }, (progress) =>
      dispatch(renderProgressed(progress)),
    );
    try {
      const { name, frames, seconds, took } = await running.result;
      const text = `${name} is ready: ${frames} frames, ${seconds.toFixed(2)} s, made in ${took.toFixed(1)} s.`;
      dispatch(renderEnded({ text, bad: false, made: name }));
    } catch (error) {
      const cancelled = (error as Error).name === 'RenderCancelled';
      const text = cancelled
        ? 'Render cancelled. Nothing was saved.'
        : `The render failed: ${(error as Error).message}`;
      dispatch(renderEnded({ text, bad: !cancelled }));
    } finally {
      running = null;
    }
  };
}

export function cancelRender(): void {
  running?.cancel();
}
