import { checkOutputForm, type OutputForm } from '@hastig/contract';
import type { RenderJob } from './job';
import { PART, renderFolder } from './targets';

/** What a finished render is, beside its bytes. */
export interface RenderDetails extends Pick<RenderJob, 'width' | 'height' | 'rate'> {
  /** What was asked for. */
  form: OutputForm;
  frames: number;
  seconds: number;
  /** Seconds of work. */
  took: number;
}

/** A finished render in the browser's private storage. */
export interface StoredRender {
  name: string;
  bytes: number;
  /** Milliseconds since 1970. */
  finishedAt: number;
  /** Undefined where they were not kept. */
  details: RenderDetails | undefined;
}

/** Folder in which it is told of renders what they are, a file for each. */
const DETAILS_FOLDER = 'render-details';

async function detailsFolder(): Promise<FileSystemDirectoryHandle> {
  return (await navigator.storage.getDirectory()).getDirectoryHandle(DETAILS_FOLDER, { create: true });
}

/** Keeps what a render is. */
export async function describeRender(name: string, details: RenderDetails): Promise<void> {
  const writable = await (await (await detailsFolder()).getFileHandle(name, { create: true })).createWritable();
  await writable.write(JSON.stringify(details));
  await writable.close();
}

async function detailsOf(folder: FileSystemDirectoryHandle, name: string): Promise<RenderDetails | undefined> {
  try {
    const file = await (await folder.getFileHandle(name)).getFile();
    const found = JSON.parse(await file.text()) as RenderDetails;
    const { form, width, height, rate, frames, seconds, took } = found;
    const numbers = [width, height, rate.num, rate.den, frames, seconds, took];
    return checkOutputForm(form).ok && numbers.every(Number.isFinite) ? found : undefined;
  } catch {
    // One that was made before they were kept, or what was cut off.
    return undefined;
  }
}

/** Finished renders, newest first. Parts that a closed tab left behind are taken away. */
export async function listRenders(): Promise<StoredRender[]> {
  const renders: StoredRender[] = [];
  const [folder, described] = await Promise.all([renderFolder(), detailsFolder()]);
  for await (const handle of folder.values()) {
    if (handle.kind !== 'file') continue;
    if (handle.name.endsWith(PART)) {
      // A part that is being written is locked and stays.
      await folder.removeEntry(handle.name).catch(() => undefined);
      continue;
    }
    const file = await handle.getFile();
    const details = await detailsOf(described, file.name);
    renders.push({ name: file.name, bytes: file.size, finishedAt: file.lastModified, details });
  }
  return renders.sort((a, b) => b.finishedAt - a.finishedAt);
}

export async function readRender(name: string): Promise<File> {
  return (await (await renderFolder()).getFileHandle(name)).getFile();
}

export async function removeRender(name: string): Promise<void> {
  await (await renderFolder()).removeEntry(name);
  await (await detailsFolder()).removeEntry(name).catch(() => undefined);
}
