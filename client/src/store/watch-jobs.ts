import type { ServerJob } from '@hastig/contract';
import { api, JOB_EVENTS } from './api';
import { isOpen, jobsTold } from './jobs-slice';
import { noteDone } from './notify';
import type { AppThunk } from './store';

// A connection that stays is one of the few that a browser has for a server, in all tabs together: it is there only while
// something is to be told.
let events: EventSource | undefined;
let watching = 0;

/** Looks once at what the server has to do, and goes on looking while something is to be done. */
export function lookAtJobs(): AppThunk<Promise<void>> {
  return async (dispatch) => {
    const list = await api.listJobs().catch(() => undefined);
    if (list) dispatch(told(list));
  };
}

/** Looks on while a list of jobs is shown. @returns what ends it */
export function watchJobs(): AppThunk<() => void> {
  return (dispatch) => {
    watching++;
    dispatch(follow());
    return () => {
      watching--;
      dispatch(follow());
    };
  };
}

function told(list: readonly ServerJob[]): AppThunk {
  return (dispatch, getState) => {
    const { jobs, render } = getState();
    const before = new Map(jobs.list?.filter(isOpen).map((job) => [job.id, job]));
    const ended = list.filter((job) => before.has(job.id) && (job.state === 'done' || job.state === 'failed'));
    dispatch(jobsTold(list));
    if (render.notify && ended.length > 0)
      noteDone(
        ended.map(({ file, state, message }) => ({
          text: state === 'done' ? `${file} is ready.` : `${file}: ${message}`,
          bad: state === 'failed',
        })),
      );
    dispatch(follow());
  };
}

function follow(): AppThunk {
  return (dispatch, getState) => {
    const needed = watching > 0 || getState().jobs.list?.some(isOpen) === true;
    if (!needed) {
      events?.close();
      events = undefined;
    } else if (!events) {
      // It is taken up again by the browser when the server was away.
      events = new EventSource(JOB_EVENTS);
      events.onmessage = ({ data }: MessageEvent<string>) => dispatch(told(JSON.parse(data) as ServerJob[]));
    }
  };
}
