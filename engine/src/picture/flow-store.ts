/** Folder of the browser's private storage in which flows lie. */
const FOLDER = 'flows';
/** Bytes of all of them at most; what was not used for longest goes first. */
const MOST_BYTES = 256 * 2 ** 20;
/** Flows that are written before it is looked again whether they are too many. */
const SWEEP_EVERY = 16;

interface SyncAccess {
  getSize(): number;
  read(into: Uint8Array<ArrayBuffer>, options: { at: number }): number;
  write(data: Uint8Array<ArrayBuffer>, options: { at: number }): number;
  close(): void;
}

// TypeScript's library for pages does not list it: it exists in workers only.
interface AccessibleHandle extends FileSystemFileHandle {
  createSyncAccessHandle(): Promise<SyncAccess>;
}

/**
 * Flows that were found before, on this device. They are of use and no more: where there is no room or no storage nothing is kept,
 * and what is not there is found anew.
 */
export class FlowStore {
  private written = 0;
  private readonly folder: Promise<FileSystemDirectoryHandle | undefined>;

  constructor(private readonly most = MOST_BYTES) {
    this.folder = openFolder().catch(() => undefined);
  }

  /** What lies under a name; undefined where nothing does. */
  async read(name: string): Promise<Uint8Array<ArrayBuffer> | undefined> {
    const folder = await this.folder;
    try {
      const file = await folder?.getFileHandle(name);
      return file && (await readAll(file as AccessibleHandle));
    } catch {
      return undefined;
    }
  }

  /** Keeps something under a name, where there is room. */
  async write(name: string, bytes: Uint8Array<ArrayBuffer>): Promise<void> {
    const folder = await this.folder;
    try {
      const file = await folder?.getFileHandle(name, { create: true });
      const access = await (file as AccessibleHandle | undefined)?.createSyncAccessHandle();
      try {
        access?.write(bytes, { at: 0 });
      } finally {
        access?.close();
      }
      if (++this.written % SWEEP_EVERY === 1) await this.sweep();
    } catch {
      // Half of it is none: it is not as long as it says.
    }
  }

  /** Takes away what was not used for longest, until the rest is no more than it may be. */
  async sweep(): Promise<void> {
    const folder = await this.folder;
    if (!folder) return;
    const files: { name: string; bytes: number; used: number }[] = [];
    for await (const [name, handle] of folder.entries()) {
      if (handle.kind !== 'file') continue;
      const { size, lastModified } = await (handle as FileSystemFileHandle).getFile();
      files.push({ name, bytes: size, used: lastModified });
    }
    files.sort((a, b) => a.used - b.used);
    let all = files.reduce((sum, { bytes }) => sum + bytes, 0);
    for (const { name, bytes } of files) {
      if (all <= this.most) break;
      // One that another worker reads just now stays until the next time.
      await folder.removeEntry(name).then(
        () => (all -= bytes),
        () => undefined,
      );
    }
  }
}

async function openFolder(): Promise<FileSystemDirectoryHandle> {
  return (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER, { create: true });
}

async function readAll(file: AccessibleHandle): Promise<Uint8Array<ArrayBuffer>> {
  const access = await file.createSyncAccessHandle();
  try {
    const bytes = new Uint8Array(access.getSize());
    access.read(bytes, { at: 0 });
    // Writing a byte of it says that it was of use.
    if (bytes.length > 0) access.write(bytes.slice(0, 1), { at: 0 });
    return bytes;
  } finally {
    access.close();
  }
}

/**
 * A name for what was found of something: the digest of the file it is of, and one of all that it depends on beside it. Undefined
 * where the browser makes none, as on a page that did not come by a safe way: nothing is kept there.
 *
 * @param identity see `SourceFrames`; begins with the file's digest
 */
export async function flowName(identity: string, of: readonly number[]): Promise<string | undefined> {
  // Typed as if it were always there.
  if (!(crypto as Partial<Crypto>).subtle) return undefined;
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(JSON.stringify([identity, ...of])));
  const hex = Array.from(new Uint8Array(digest, 0, 16), (byte) => byte.toString(16).padStart(2, '0')).join('');
  return `${fileOf(identity)}-${hex}`;
}

const fileOf = (text: string): string => text.slice(0, 64);

/**
 * Takes away what was found of files that are not there any more.
 *
 * @param files digests of those that are
 */
export async function forgetFlows(files: ReadonlySet<string>): Promise<void> {
  const folder = await openFolder().catch(() => undefined);
  if (!folder) return;
  const gone: string[] = [];
  for await (const name of folder.keys()) if (!files.has(fileOf(name))) gone.push(name);
  // One that is read or written just now stays until the next time.
  for (const name of gone) await folder.removeEntry(name).catch(() => undefined);
}
