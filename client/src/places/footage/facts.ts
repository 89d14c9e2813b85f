import type { Rate, Scan, Source, StillFacts } from '@hastig/contract';
import {
  coloursOf,
  fieldsOf,
  fileCountOf,
  fitAt,
  formatPercent,
  formatRate,
  kindOf,
  rateToNumber,
  realFrameFloor,
  soundOf,
  sourceFrames,
  sourceRate,
} from '@hastig/core';
import { codecName, silentWords } from '@hastig/engine';
import { channelsOf } from '../../project/sound-words';
import { colourWords, fileColourWords } from '../../project/colour-words';
import { fitWords, varyWords } from '../../project/fit-words';
import { numbersOf } from '../../project/still-words';
import { formatBytes } from '../../ui/format';

type Row = readonly [name: string, value: string];

/** A source's facts as rows of name and value. */
export function factRows(
  source: Pick<Source, 'facts' | 'readAs' | 'fields' | 'counting' | 'colours' | 'soundTrack'>,
): readonly Row[] {
  const { facts } = source;
  const audio = soundOf(source);
  const silent = silentWords(audio) ? ', can’t be decoded: silent' : '';
  const sound = audio && `${codecName(audio.codec)}, ${channelsOf(audio.channels)}, ${audio.sampleRate} Hz${silent}`;
  return [
    ['Container', facts.container],
    ...(facts.video ? videoRows(source, facts.video) : facts.still ? stillRows(source, facts.still) : []),
    ['Sound', sound ?? 'none'],
    ...(kindOf(facts) === 'sound' ? soundRows(source) : []),
    ...(facts.converted
      ? [['Converted from', `${facts.converted.from}, ${formatBytes(facts.converted.bytes)}, kept`] as const]
      : []),
    ['File', formatBytes(facts.bytes)],
  ];
}

const rateWords = (rate: Rate): string =>
  rate.den === 1 ? String(rate.num) : `${rate.num}/${rate.den} (${formatRate(rate)})`;

function videoRows(
  { facts, readAs, colours, ...taken }: Pick<Source, 'facts' | 'readAs' | 'fields' | 'counting' | 'colours'>,
  video: NonNullable<Source['facts']['video']>,
): Row[] {
  const { rate, by, frames } = fileCountOf({ facts, ...taken });
  const fit = by === 'frame' ? undefined : fitAt(facts, rate);
  const { average } = video.varying ?? {};
  const evenness =
    by === 'nearest' && fit?.within !== undefined
      ? ['', varyWords(fit.within), fitWords(fit)].filter((words, place) => place === 0 || words).join(', ')
      : by === 'frame' || !average
        ? ', not constant'
        : `, variable frame rate, ${formatRate(average)} on average`;
  return [
    ['Picture', `${codecName(video.codec)} (${video.codecString})${video.bits ? `, ${video.bits} bit` : ''}`],
    ...(video.light ? [['Dynamic range', lightNames[video.light]] as const] : []),
    ['Frame size', `${video.width} × ${video.height}${video.rotation ? `, turned ${video.rotation}°` : ''}`],
    [
      'Frame rate',
      `${rateWords(rate)} fps${video.constantRate ? '' : evenness}${readAs ? `, played at ${formatRate(readAs)}` : ''}`,
    ],
    ['Scan', scanNames[video.scan ?? 'progressive']],
    ...(video.colours || colours ? [['Colours', coloursSaid({ facts, colours })] as const] : []),
    [
      'Frames',
      fit && frames !== video.frames
        ? `${video.frames}, as ${frames} at ${formatRate(rate)} fps`
        : String(video.frames),
    ],
    ['Duration', `${video.seconds.toFixed(3)} s`],
    ['Longest GOP', `${video.longestGroup} frames`],
  ];
}

function coloursSaid({ facts, colours }: { facts: Source['facts']; colours: Source['colours'] }): string {
  const taken = coloursOf({ facts, ...(colours && { colours }) });
  const said = facts.video?.colours;
  const words = taken.colours ? colourWords(taken.colours.space) : fileColourWords(said?.matrix ?? '');
  const range = (taken.colours?.fullRange ?? said?.fullRange) ? 'full range' : 'limited range';
  const origin = { chosen: ', as set here', assumed: ', assumed: the file doesn’t say', file: '' }[taken.origin];
  return `${words}, ${range}${origin}`;
}

function stillRows({ facts, readAs }: Pick<Source, 'facts' | 'readAs'>, still: StillFacts): Row[] {
  const rows: Row[] = [
    ['Picture', `${still.codec.toUpperCase()}${still.alpha ? ', with alpha' : ''}`],
    ['Frame size', `${still.width} × ${still.height}`],
  ];
  if (still.first === undefined) return rows;
  const rate = readAs ?? fileCountOf({ facts }).rate;
  return [
    ...rows,
    ['Frame rate', `${rateWords(rate)} fps`],
    ['Frames', String(still.pictures)],
    ['Duration', `${(still.pictures / rateToNumber(rate)).toFixed(3)} s`],
    ['Numbering', numbersOf(still)],
  ];
}

function soundRows({ facts }: Pick<Source, 'facts'>): Row[] {
  const { rate, frames } = fileCountOf({ facts });
  return [
    ['Samples', String(frames)],
    ['Duration', `${(frames / rateToNumber(rate)).toFixed(3)} s`],
  ];
}

const lightNames = { pq: 'HDR (PQ), converted to SDR', hlg: 'HDR (HLG), converted to SDR' };

const scanNames: Record<Scan, string> = {
  progressive: 'progressive',
  topFirst: 'interlaced, top field first',
  bottomFirst: 'interlaced, bottom field first',
};

/** Whether a source was taken in fields, by what its stream says or by what was chosen. */
export function isInterlaced(source: Source): boolean {
  return (source.facts.video?.scan ?? 'progressive') !== 'progressive' || fieldsOf(source).use !== 'woven';
}

/** What becomes of an interlaced source's fields. */
export function scanMeaning(source: Source): string {
  const { use, first } = fieldsOf(source);
  if (use === 'woven') return 'Interlaced, fields woven';
  if (use === 'first') return `Interlaced, ${first} field only`;
  return `Interlaced, one frame per field, ${first} field first`;
}

/** What a source is to a sequence: what its rate means there, or how long it lasts. */
export function sourceMeaning(source: Source, sequence: Rate): string {
  const kind = kindOf(source.facts);
  if (kind === 'still') return 'Still image';
  if (kind !== 'sound') return rateMeaning(sourceRate(source), sequence);
  const { sampleRate, channels } = soundOf(source)!;
  const seconds = sourceFrames(source) / rateToNumber(sourceRate(source));
  return `Sound, ${channelsOf(channels)}, ${sampleRate / 1000} kHz, ${durationOf(seconds)}`;
}

const durationOf = (seconds: number): string => {
  const rounded = Math.round(seconds);
  const [hours, minutes] = [Math.floor(rounded / 3600), Math.floor(rounded / 60) % 60];
  if (rounded < 60) return `${seconds.toFixed(1)} s`;
  return hours > 0 ? `${hours} h ${minutes} min` : `${minutes} min ${rounded % 60} s`;
};

function rateMeaning(source: Rate, sequence: Rate): string {
  const floor = realFrameFloor(source, sequence);
  const rates = `${formatRate(source)} fps in a ${formatRate(sequence)} fps sequence`;
  return floor < 1
    ? `${rates}: real frames down to ${formatPercent(floor)}`
    : `${rates}: frames repeat below ${formatPercent(floor)}`;
}
