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
  title?: string;
  /** What its first frame is called. */
  timecode?: string;
  /** A file of markers, each of which begins a chapter. */
  markers?: string;
}

/** What a file is told to say of itself. Throws CommandFailed. */
export async function fileMarks(
  { title = '', timecode, markers }: MarkFlags,
  map: RetimeMap,
  rate: Rate = map.outputRate,
): Promise<FileMarks> {
  const [frames, counted] = [frameCount(map), map.outputRate];
  const start = timecode === undefined ? undefined : parseTime(timecode, counted, 'timecode');
  if (start && !start.ok) throw new CommandFailed(`${timecode} ${start.reason} (--timecode)`);
  return {
    ...{ rate: counted, frames },
    chapters: markers ? chaptersOf(await readMarkers(markers, counted), { from: 0, to: frames }, title, 'all') : [],
    ...(start && { timecode: startTimecode(Math.floor(start.value), counted, rate) }),
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
