import type { ChapterChoice, Marker, Rate } from '@hastig/contract';
import { canDropFrames, countingBase, formatTimecode, rateToNumber, timecodeToFrame } from '../../time';

/** A stretch of a file with a name; in frames of the film, from the file's beginning, `to` not included. */
export interface Chapter {
  from: number;
  to: number;
  name: string;
}

/** What the first frame of a file is called: a frame counted from 00:00:00:00 at a rate, as drop-frame counting has it or not. */
export interface StartTimecode {
  frame: number;
  rate: Rate;
  dropFrame: boolean;
}

/** What is written into a file beside picture and sound. */
export interface FileMarks {
  /** Frames per second that chapters are counted in, and how many the file has. */
  rate: Rate;
  frames: number;
  /** In order, without gaps, from the first frame to the last; or none. */
  chapters: readonly Chapter[];
  timecode?: StartTimecode;
}

/** Chapters of a file at most: three figures count them (`CHAPTER001`). */
const MOST_CHAPTERS = 999;
/** Characters of a chapter's name at most. */
const LONGEST = 200;

/**
 * The chapters of a stretch of a film: one from each marker to the next. What lies before the first is one of the title's name, for
 * files have no gaps between theirs. Markers at one frame begin one; those without a name are numbered.
 *
 * @param choice which markers begin one: those set by hand unless told
 */
export function chaptersOf(
  markers: readonly Pick<Marker, 'at' | 'name' | 'kind'>[],
  span: { from: number; to: number },
  title: string,
  choice: ChapterChoice = 'hand',
): Chapter[] {
  if (choice === 'none') return [];
  const starts = markers
    .filter(({ at, kind = 'hand' }) => at >= span.from && at < span.to && (choice === 'all' || kind === 'hand'))
    .toSorted((a, b) => a.at - b.at)
    .filter(({ at }, index, all) => index === 0 || at !== all[index - 1]!.at);
  if (starts.length === 0) return [];
  const named = starts.map(({ at, name }, index) => ({ at, name: name || `Chapter ${index + 1}` }));
  const all = (named[0]!.at > span.from ? [{ at: span.from, name: title }, ...named] : named).slice(0, MOST_CHAPTERS);
  // One of all of it tells nothing.
  if (all.length === 1) return [];
  return all.map(({ at, name }, index) => ({
    from: at - span.from,
    to: (all[index + 1]?.at ?? span.to) - span.from,
    name: [...name].slice(0, LONGEST).join(''),
  }));
}

/**
 * What the first frame of a file is called at the file's rate: the same hour, minute and second as in the film, and as far through that
 * second. At the film's own rate it is the same frame.
 *
 * @param frame of the film's counting, from 00:00:00:00
 */
export function startTimecode(frame: number, rate: Rate, fileRate: Rate): StartTimecode {
  const dropFrame = canDropFrames(fileRate);
  if (rate.num * fileRate.den === fileRate.num * rate.den) return { frame, rate: fileRate, dropFrame };
  const parts = formatTimecode(frame, rate).split(/[:;]/).map(Number);
  const [hours, minutes, seconds, counted] = parts as [number, number, number, number];
  const base = countingBase(fileRate);
  // Drop-frame counting leaves out the first numbers of a minute; the next one there is stands for them.
  for (let frames = Math.floor((counted * base) / countingBase(rate)); ; frames++) {
    const found = timecodeToFrame({ hours, minutes, seconds, frames }, fileRate, dropFrame);
    if (found !== undefined) return { frame: found, rate: fileRate, dropFrame };
  }
}

/** A start timecode as it is read: `01:00:00:00`. */
export const timecodeText = ({ frame, rate, dropFrame }: StartTimecode): string =>
  formatTimecode(frame, rate, dropFrame);

/** Seconds of a number of the marks' frames. */
export const secondsAt = ({ rate }: Pick<FileMarks, 'rate'>, frames: number): number => frames / rateToNumber(rate);
