import {
  startRender,
  type RenderJob,
  type RenderProgress,
  type RenderResult,
  type RunningRender,
} from '@hastig/engine';

declare global {
  interface Window {
    /** Given by whoever opened the page: hears of the progress. */
    onRenderProgress(progress: RenderProgress): void;
    renderJob(job: RenderJob): Promise<RenderResult>;
    /** Has what is rendered now wait or go on, or ends it. */
    controlRender(wish: 'pause' | 'resume' | 'cancel'): void;
  }
}

let running: RunningRender | undefined;

window.renderJob = async (job) => {
  // A small picture of where it is would have to be sent as text; it is for whoever looks at a page.
  running = startRender(job, ({ picture: _, ...progress }) => window.onRenderProgress(progress));
  try {
    return await running.result;
  } finally {
    running = undefined;
  }
};

window.controlRender = (wish) => {
  if (wish === 'cancel') running?.cancel();
  else running?.pause(wish === 'pause');
};
