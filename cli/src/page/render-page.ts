import { startRender, type RenderJob, type RenderProgress, type RenderResult } from '@hastig/engine';

declare global {
  interface Window {
    /** Given by the command: hears of the progress. */
    onRenderProgress(progress: RenderProgress): void;
    renderJob(job: RenderJob): Promise<RenderResult>;
  }
}

window.renderJob = (job) => startRender(job, (progress) => window.onRenderProgress(progress)).result;
