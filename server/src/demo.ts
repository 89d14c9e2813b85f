import { join } from 'node:path';
import { beatProject, demoProject, extras, music, pathProject, scenes, type DemoMedia } from '@hastig/demo';
import { demoMediaFolder } from '@hastig/demo/media';
import type { MediaStore } from './media/store';
import { readyDocument, type ReadyDocument } from './work/read-document';

/** The demo's projects: the workshop's film, the same clips cut to music, and those with music before anything is done. */
export type DemoName = 'film' | 'beats' | 'path';

const projects = { film: demoProject, beats: beatProject, path: pathProject } as const;

/** Stores the clips of one of the demo's projects, where they are not stored yet, and makes its document. */
export async function loadDemo(media: MediaStore, name: DemoName): Promise<ReadyDocument> {
  const files: Record<string, DemoMedia> = {};
  for (const { name: one, file } of name === 'film' ? extras : music)
    files[one] = await media.adoptCopy(join(demoMediaFolder, file));
  for (const { name: one, interlaced } of scenes) {
    if (name === 'film' || !interlaced) files[one] = await media.adoptCopy(join(demoMediaFolder, `${one}.mp4`));
  }
  return readyDocument(projects[name](files));
}
