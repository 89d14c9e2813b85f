import type { OutputForm } from '@hastig/contract';
import type { RenderJob } from '@hastig/engine';
import { createStore, del, get, keys, set } from 'idb-keyval';

/** What a file was rendered of, with the timing that it had. */
interface KeptJob {
  job: Omit<RenderJob, 'target'>;
  form: OutputForm;
}

let store: ReturnType<typeof createStore> | undefined;
const jobs = () => (store ??= createStore('hastig-renders', 'jobs'));

/** Keeps what a file was rendered of, so that it can be rendered again as it was, whatever becomes of the project. */
export const keepJob = (name: string, kept: KeptJob): Promise<void> => set(name, kept, jobs());

/** What a file was rendered of; undefined where it was not kept. */
export const jobOf = (name: string): Promise<KeptJob | undefined> => get<KeptJob>(name, jobs());

export const forgetJob = (name: string): Promise<void> => del(name, jobs());

/** The names of files that can be rendered again as they were. */
export const keptJobs = async (): Promise<ReadonlySet<string>> => new Set((await keys<string>(jobs())).map(String));
