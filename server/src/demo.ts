import { join } from 'node:path';
import type { ProjectDocument } from '@hastig/contract';
import { demoProject, scenes, type DemoMedia } from '@hastig/demo';
import { demoMediaFolder } from '@hastig/demo/media';
import type { MediaStore } from './media/store';

/** Stores the demo's clips, where they are not stored yet, and makes its document. */
export async function loadDemo(media: MediaStore): Promise<ProjectDocument> {
  const files: Record<string, DemoMedia> = {};
  for (const { name } of scenes) files[name] = await media.adoptCopy(join(demoMediaFolder, `${name}.mp4`));
  return demoProject(files);
}
