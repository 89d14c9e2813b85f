// TypeScript's library does not know of it: not every browser has it.
interface FolderWindow {
  showDirectoryPicker?(options: { mode: 'readwrite' }): Promise<FileSystemDirectoryHandle>;
}

/** Whether this browser can write into a folder that is chosen. */
export const canChooseFolder = (): boolean => 'showDirectoryPicker' in globalThis;

/** Asks for a folder that may be written to. @returns undefined where none was chosen */
export async function chooseFolder(): Promise<FileSystemDirectoryHandle | undefined> {
  try {
    return await (globalThis as FolderWindow).showDirectoryPicker?.({ mode: 'readwrite' });
  } catch (error) {
    if ((error as Error).name === 'AbortError') return undefined;
    throw error;
  }
}
