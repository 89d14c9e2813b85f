import { writeFile } from 'node:fs/promises';
import { extname } from 'node:path';
import type { ProjectDocument } from '@hastig/contract';
import {
  EdlUnwritable,
  filmFrames,
  FrameMapCsv,
  keysCsv,
  markersToCsv,
  markersToVtt,
  TimingJson,
  writeEdl,
  writeOtio,
} from '@hastig/core';
import { CommandFailed } from '../fail';
import { openProject } from './open';

/** What a project can be written as, and the ending that says so. */
const writers = {
  otio: (project) => {
    const { json, greatestError } = writeOtio(project, (sha256) => `media/${sha256}`);
    return { text: JSON.stringify(json, undefined, 2), notes: greatestError > 0 ? [`curves within ${greatestError.toFixed(3)} source frames`] : [] }; // prettier-ignore
  },
  edl: (project) => writeEdl(project),
  frames: (project) => ({ text: table(project, new FrameMapCsv(project)), notes: [] }),
  timing: (project) => ({ text: table(project, new TimingJson(project)), notes: [] }),
  keys: (project) => ({ text: keysCsv(project), notes: [] }),
  'markers-csv': ({ sequence }) => ({ text: markersToCsv(sequence), notes: [] }),
  'markers-vtt': ({ sequence }) => ({ text: markersToVtt(sequence), notes: [] }),
} as const satisfies Record<string, (project: ProjectDocument) => { text: string; notes: readonly string[] }>;

export type ExportForm = keyof typeof writers;
export const exportForms = Object.keys(writers) as ExportForm[];

function table(project: ProjectDocument, writer: FrameMapCsv | TimingJson): string {
  for (const frame of filmFrames(project)) writer.add(frame);
  return writer.text;
}

/** By the ending of a file's name, where it says it. */
const byEnding: Readonly<Record<string, ExportForm>> = { '.otio': 'otio', '.edl': 'edl', '.vtt': 'markers-vtt' };

/** Writes a project's timing for others. @returns what was left out or came out otherwise. Throws CommandFailed. */
export async function exportProject(path: string, out: string, as?: ExportForm): Promise<readonly string[]> {
  const form = as ?? byEnding[extname(out).toLowerCase()];
  if (!form) throw new CommandFailed(`choose what ${out} is with --as: ${exportForms.join(', ')}`);
  const { document: project } = await openProject(path);
  try {
    const { text, notes } = writers[form](project);
    await writeFile(out, text);
    return notes;
  } catch (error) {
    if (error instanceof EdlUnwritable) throw new CommandFailed(error.message);
    if (error instanceof Error && 'code' in error)
      throw new CommandFailed(`${out}: ${error.code === 'ENOENT' ? 'folder not found' : error.message}`);
    throw error;
  }
}
