import { readRender } from '@hastig/engine';
import { saveBlob } from '../../ui/save-file';

/** Hands a file that was rendered in this browser to its downloads. */
export async function downloadRender(name: string): Promise<void> {
  saveBlob(name, await readRender(name));
}
