import type { Rate, Scan, Source } from '@hastig/contract';
import { fieldsOf, formatPercent, formatRate, realFrameFloor } from '@hastig/core';
import { codecName } from '@hastig/engine';
import { formatBytes } from '../../ui/format';

/** A source's facts as rows of name and value. */
export function factRows({
  facts,
  readAs,
}: Pick<Source, 'facts' | 'readAs'>): readonly (readonly [name: string, value: string])[] {
  const { video, audio } = facts;
  const exact =
    video.rate.den === 1 ? String(video.rate.num) : `${video.rate.num}/${video.rate.den} (${formatRate(video.rate)})`;
  return [
    ['Container', facts.container],
    ['Picture', `${codecName(video.codec)} (${video.codecString})`],
    ['Size', `${video.width} × ${video.height}${video.rotation ? `, turned ${video.rotation}°` : ''}`],
    [
      'Rate',
      `${exact} fps${video.constantRate ? '' : ', not constant'}${readAs ? `, read as ${formatRate(readAs)}` : ''}`,
    ],
    ['Scan', scanNames[video.scan ?? 'progressive']],
    ['Frames', String(video.frames)],
    ['Duration', `${video.seconds.toFixed(3)} s`],
    ['Longest group', `${video.longestGroup} frames`],
    ['Sound', audio ? `${codecName(audio.codec)}, ${channelsOf(audio.channels)}, ${audio.sampleRate} Hz` : 'none'],
    ['File', formatBytes(facts.bytes)],
  ];
}

const scanNames: Record<Scan, string> = {
  progressive: 'progressive',
  topFirst: 'interlaced, top field first',
  bottomFirst: 'interlaced, bottom field first',
};

/** Whether a source was taken in fields, by what its stream says or by what was chosen. */
export function isInterlaced(source: Source): boolean {
  return (source.facts.video.scan ?? 'progressive') !== 'progressive' || fieldsOf(source).use !== 'woven';
}

/** What becomes of an interlaced source's fields. */
export function scanMeaning(source: Source): string {
  const { use, first } = fieldsOf(source);
  if (use === 'woven') return 'Interlaced, both fields woven as they are stored';
  if (use === 'first') return `Interlaced, only the ${first} field shown`;
  return `Interlaced, both fields frames of their own, ${first} field first`;
}

function channelsOf(count: number): string {
  return count === 1 ? 'mono' : count === 2 ? 'stereo' : `${count} channels`;
}

/** What a source's rate means at the sequence's. */
export function rateMeaning(source: Rate, sequence: Rate): string {
  const floor = realFrameFloor(source, sequence);
  const rates = `${formatRate(source)} fps on a ${formatRate(sequence)} fps sequence`;
  return floor < 1
    ? `${rates}: real frames down to ${formatPercent(floor)}`
    : `${rates}: frames repeat below ${formatPercent(floor)}`;
}
