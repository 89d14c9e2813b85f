import { readFile } from 'node:fs/promises';
import { extname } from 'node:path';
import type { Rate, RetimeMap } from '@hastig/contract';
import {
  chaptersOf,
  frameCount,
  markersFromCsv,
  markersFromVtt,
  MarkersUnreadable,
  parseTime,
  startTimecode,
  type FileMarks,
} from '@hastig/core';
import { CommandFailed } from './fail';

/** What is asked to be told in a file. */
export interface MarkFlags {
  title?: string | undefined;
  /** What its first frame is called. */
  timecode?: string | undefined;
  /** A file of markers, each of which begins a chapter. */
  markers?: string | undefined;
}

/** What a file is told to say of itself. Throws CommandFailed. */
export async function fileMarks({ title = '', timecode, markers }: MarkFlags, map: RetimeMap): Promise<FileMarks> {
  const [frames, rate] = [frameCount(map), map.outputRate];
  const start = timecode === undefined ? undefined : parseTime(timecode, rate, 'timecode');
  if (start && !start.ok) throw new CommandFailed(`${timecode} ${start.reason} (--timecode)`);
  return {
    ...{ rate, frames },
    chapters: markers ? chaptersOf(await readMarkers(markers, rate), { from: 0, to: frames }, title, 'all') : [],
    ...(start && { timecode: startTimecode(Math.floor(start.value), rate, rate) }),
  };
}

async function readMarkers(path: string, rate: Rate) {
  const text = await readFile(path, 'utf8').catch((error: NodeJS.ErrnoException) => {
    throw new CommandFailed(`${path}: ${error.code === 'ENOENT' ? 'file not found' : error.message}`);
  });
  try {
    return (extname(path).toLowerCase() === '.vtt' ? markersFromVtt : markersFromCsv)(text, rate);
  } catch (error) {
    if (error instanceof MarkersUnreadable) throw new CommandFailed(`${path}: ${error.message}`);
    throw error;
  }
}
