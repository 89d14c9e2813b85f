import { join } from 'node:path';
import { demoProject, extras, scenes, type DemoMedia } from '@hastig/demo';
import { demoMediaFolder } from '@hastig/demo/media';
import type { MediaStore } from './media/store';
import { readyDocument, type ReadyDocument } from './work/read-document';

/** Stores the demo's clips, where they are not stored yet, and makes its document. */
export async function loadDemo(media: MediaStore): Promise<ReadyDocument> {
  const files: Record<string, DemoMedia> = {};
  for (const { name, file } of extras) files[name] = await media.adoptCopy(join(demoMediaFolder, file));
  for (const { name } of scenes) files[name] = await media.adoptCopy(join(demoMediaFolder, `${name}.mp4`));
  return readyDocument(demoProject(files));
}
