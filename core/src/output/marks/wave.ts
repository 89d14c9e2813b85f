import { join, u16le, u32le, utf8, viewOf, zeros, type Bytes, type Patch } from './bytes';
import { secondsAt, type FileMarks, type StartTimecode } from './file-marks';

/**
 * Chapters and start timecode of WAVE: cue points with labels (“Multimedia Programming Interface and Data Specifications 1.0”, IBM and
 * Microsoft, 1991), and the time reference of the Broadcast Wave Format (EBU Tech 3285).
 */

/** Bytes before what tells how long a file is: in RF64 (EBU Tech 3306) the size lies in its `ds64` chunk. */
const SIZE_AT = 4;
const LONG_SIZE_AT = 20;

/** A chunk; one of an odd length is followed by a byte of nothing. */
const chunk = (id: string, ...parts: readonly Uint8Array[]): Bytes => {
  const content = join(...parts);
  return join(utf8(id), u32le(content.length), content, zeros(content.length % 2));
};

/** Samples since midnight, at which the file begins; description, originator, its reference, date and time are not known. */
function broadcast(timecode: StartTimecode, sampleRate: number): Bytes {
  // By the clock, as recorders count: at 23.976 an hour of timecode is 3603.6 seconds (common practice).
  const samples = Math.round(secondsAt(timecode, timecode.frame) * sampleRate);
  const nobody = zeros(256 + 32 + 32 + 10 + 8);
  return chunk('bext', nobody, u32le(samples % 2 ** 32, Math.floor(samples / 2 ** 32)), u16le(1), zeros(64 + 190));
}

function cues(marks: FileMarks, sampleRate: number): Bytes {
  const points = marks.chapters.map(({ from }, index) => {
    const sample = Math.round(secondsAt(marks, from) * sampleRate);
    return join(u32le(index + 1, sample), utf8('data'), u32le(0, 0, sample));
  });
  const labels = marks.chapters.map(({ name }, index) => chunk('labl', u32le(index + 1), utf8(name), zeros(1)));
  return join(chunk('cue ', u32le(points.length), ...points), chunk('LIST', utf8('adtl'), ...labels));
}

/**
 * What is to be changed in a WAVE file, and added at its end, for its marks; nothing where there are none.
 *
 * @param head the file's first bytes, 28 at least
 * @param end bytes of the file so far
 */
export function markWave(head: Uint8Array, marks: FileMarks, end: number, sampleRate: number): Patch[] {
  const tail = join(
    zeros(end % 2),
    ...(marks.timecode ? [broadcast(marks.timecode, sampleRate)] : []),
    ...(marks.chapters.length > 0 ? [cues(marks, sampleRate)] : []),
  );
  if (tail.length <= end % 2) return [];
  const size = end + tail.length - 8;
  const long = String.fromCharCode(...head.subarray(0, 4)) === 'RF64';
  const field = new Uint8Array(long ? 8 : 4);
  if (long) viewOf(field).setBigUint64(0, BigInt(size), true);
  else viewOf(field).setUint32(0, size, true);
  return [
    { at: end, bytes: tail },
    { at: long ? LONG_SIZE_AT : SIZE_AT, bytes: field },
  ];
}
