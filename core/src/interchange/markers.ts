import { keptText, markerTones, type Marker, type MarkerTone, type Rate } from '@hastig/contract';
import Papa from 'papaparse';
import { formatTimecode, frameToSeconds, parseTime, secondsToFrames } from '../time';
import { webvtt } from './webvtt';

/** Markers and the rate their frames are counted at. */
export interface MarkerTable {
  rate: Rate;
  markers: readonly Marker[];
}

/** A marker as a file has it, not yet with an id of its own. */
type FoundMarker = Omit<Marker, 'id'>;

/** Thrown for a file that holds no markers that can be read; says what is wrong and where. */
export class MarkersUnreadable extends Error {
  override readonly name = 'MarkersUnreadable';
}

const isTone = (text: string): text is MarkerTone => (markerTones as readonly string[]).includes(text);

// The signs that WebVTT keeps for itself in a cue's text, and what stands for them there.
const escapes: readonly (readonly [string, string])[] = [
  ['&', '&amp;'],
  ['<', '&lt;'],
  ['>', '&gt;'],
];
const escaped = (text: string): string => escapes.reduce((now, [sign, entity]) => now.replaceAll(sign, entity), text);
const unescaped = (text: string): string =>
  escapes.toReversed().reduce((now, [sign, entity]) => now.replaceAll(entity, sign), text);

/**
 * Markers as WebVTT (W3C, "WebVTT: The Web Video Text Tracks Format"): a cue of one frame each, its name in a class span
 * that says its tone. Times are rounded to milliseconds, which tells frames apart up to 500 a second.
 */
export function markersToVtt({ rate, markers }: MarkerTable): string {
  // A quarter of a millisecond more, for the package rounds down what a float may have just below.
  const milliseconds = (frame: number): number => (Math.round(frameToSeconds(frame, rate) * 1000) + 0.25) / 1000;
  const cues = markers.map(({ at, name, tone }, index) => ({
    identifier: String(index + 1),
    start: milliseconds(at),
    end: milliseconds(at + 1),
    text: `<c.${tone}>${escaped(name)}</c>`,
    styles: '',
  }));
  return `${webvtt.compile({ valid: true, cues }).trimEnd()}\n`;
}

/**
 * Reads markers from WebVTT: one for the beginning of each cue, its text the name; tags are left out.
 *
 * @throws MarkersUnreadable
 */
export function markersFromVtt(text: string, rate: Rate): FoundMarker[] {
  let parsed;
  try {
    parsed = webvtt.parse(text.replace(/^\uFEFF/, ''), { meta: true, strict: true });
  } catch (error) {
    throw new MarkersUnreadable(`this isn’t readable WebVTT (${(error as Error).message}).`);
  }
  return parsed.cues.map(({ start, text: cue }) => {
    const tone = /<c\.([a-z]+)/.exec(cue)?.[1] ?? '';
    const name = unescaped(cue.replace(/<[^>]*>/g, ''))
      .replace(/\s+/g, ' ')
      .trim();
    return {
      at: Math.round(secondsToFrames(start, rate)),
      name: keptText(name),
      tone: isTone(tone) ? tone : 'oak',
    };
  });
}

/** Markers as CSV (RFC 4180) with the header `frame,timecode,name,tone`. */
export function markersToCsv({ rate, markers }: MarkerTable): string {
  const rows = markers.map(({ at, name, tone }) => ({ frame: at, timecode: formatTimecode(at, rate), name, tone }));
  // A name that a spreadsheet would take for a formula is kept from being one.
  return `${Papa.unparse(rows, { columns: ['frame', 'timecode', 'name', 'tone'], escapeFormulae: true })}\r\n`;
}

/**
 * Reads markers from CSV with a header: a column `frame` or `timecode` says where, `name` and `tone` may be missing.
 *
 * @throws MarkersUnreadable naming the row
 */
export function markersFromCsv(text: string, rate: Rate): FoundMarker[] {
  const { data, meta } = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (header) => header.trim().toLowerCase(),
  });
  const fields = meta.fields ?? [];
  if (!fields.includes('frame') && !fields.includes('timecode')) {
    throw new MarkersUnreadable(
      'the first row must name the columns: frame or timecode, and optionally name and tone.',
    );
  }
  return data.map((row, index) => {
    const tone = row.tone?.trim() ?? '';
    const name = (row.name ?? '').trim().replace(/^'(?=[=+\-@])/, '');
    return {
      at: frameOf(row, rate, index + 2),
      name: keptText(name),
      tone: isTone(tone) ? tone : 'oak',
    };
  });
}

function frameOf(row: Record<string, string>, rate: Rate, line: number): number {
  const frame = row.frame?.trim();
  if (frame) {
    if (/^\d+$/.test(frame)) return Number(frame);
    throw new MarkersUnreadable(`row ${line}: “${frame}” isn’t a frame number.`);
  }
  const timecode = row.timecode?.trim() ?? '';
  const at = parseTime(timecode, rate, 'timecode');
  if (!at.ok || !Number.isInteger(at.value) || at.value < 0)
    throw new MarkersUnreadable(`row ${line}: “${timecode}” ${at.ok ? 'isn’t a whole frame' : at.reason}.`);
  return at.value;
}
