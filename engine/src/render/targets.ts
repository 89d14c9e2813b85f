import type { StreamTargetChunk } from 'mediabunny';
import type { RenderTarget } from './job';

/** A file that comes into being: nothing stands under its name before `commit`. */
export interface OpenTarget {
  writable: WritableStream<StreamTargetChunk>;
  /** Gives the finished file its name; another one, numbered, where that is taken. @returns the name it got */
  commit(): Promise<string>;
  /** Takes away what was written. */
  discard(): Promise<void>;
}

/** Folder of the browser's private storage in which renders lie. */
const RENDER_FOLDER = 'renders';
/** The ending of what is not finished. */
export const PART = '.part';

export async function renderFolder(): Promise<FileSystemDirectoryHandle> {
  return (await navigator.storage.getDirectory()).getDirectoryHandle(RENDER_FOLDER, { create: true });
}

export function openTarget(target: Exclude<RenderTarget, { to: 'folder' }>): Promise<OpenTarget> {
  return target.to === 'storage' ? openStorage(target.name) : openAddress(target.url);
}

/** A folder that comes into being in one that was chosen. */
interface OpenFolder {
  name: string;
  put(name: string, file: Blob): Promise<void>;
  /** Takes away all that was written. */
  discard(): Promise<void>;
}

/** Makes a folder of a name that is free there. */
export async function openFolder(parent: FileSystemDirectoryHandle, wanted: string): Promise<OpenFolder> {
  const name = freeName(wanted, await namesIn(parent));
  const folder = await parent.getDirectoryHandle(name, { create: true });
  return {
    name,
    put: async (file, content) => {
      const writable = await (await folder.getFileHandle(file, { create: true })).createWritable();
      await writable.write(content);
      await writable.close();
    },
    discard: () => parent.removeEntry(name, { recursive: true }),
  };
}

async function namesIn(folder: FileSystemDirectoryHandle): Promise<Set<string>> {
  const names = new Set<string>();
  for await (const name of folder.keys()) names.add(name);
  return names;
}

/** A name that is not taken: `drop.mp4`, else `drop 2.mp4`, `drop 3.mp4` and so on. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  if (!taken.has(name)) return name;
  const dot = name.lastIndexOf('.');
  const [stem, ending] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, ''];
  for (let number = 2; ; number++) {
    const next = `${stem} ${number}${ending}`;
    if (!taken.has(next)) return next;
  }
}

interface SyncAccess {
  write(data: Uint8Array<ArrayBuffer>, options: { at: number }): number;
  flush(): void;
  close(): void;
}

// TypeScript's library for pages lists neither: one exists in workers only, the other is younger than the library.
interface MovableHandle extends FileSystemFileHandle {
  createSyncAccessHandle(): Promise<SyncAccess>;
  move(name: string): Promise<void>;
}

async function openStorage(name: string): Promise<OpenTarget> {
  const folder = await renderFolder();
  const file = (await folder.getFileHandle(`${crypto.randomUUID()}${PART}`, { create: true })) as MovableHandle;
  const access = await file.createSyncAccessHandle();
  return {
    writable: new WritableStream({
      write: ({ data, position }) => {
        try {
          access.write(data, { at: position });
        } catch (error) {
          if ((error as Error).name !== 'QuotaExceededError') throw error;
          throw new Error(
            'This browser has no space left for the render. Delete renders you don’t need or free disk space, and render again.',
            { cause: error },
          );
        }
      },
    }),
    commit: async () => {
      access.flush();
      access.close();
      const free = freeName(name, await namesIn(folder));
      await file.move(free);
      return free;
    },
    discard: async () => {
      access.close();
      await folder.removeEntry(file.name);
    },
  };
}

async function openAddress(url: string): Promise<OpenTarget> {
  const send = async (method: string, at: string, body?: BodyInit): Promise<void> => {
    const answer = await fetch(`${url}${at}`, { method, ...(body === undefined ? {} : { body }) });
    if (!answer.ok) throw new Error(`The file couldn’t be written: ${await answer.text()}`);
  };
  return {
    writable: new WritableStream({ write: ({ data, position }) => send('PUT', `?position=${position}`, data) }),
    commit: async () => {
      await send('POST', '');
      return url;
    },
    discard: () => send('DELETE', ''),
  };
}
