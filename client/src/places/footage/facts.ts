import type { Rate, Scan, Source } from '@hastig/contract';
import { fieldsOf, fileCountOf, formatPercent, formatRate, realFrameFloor, sameRate, soundOf } from '@hastig/core';
import { codecName } from '@hastig/engine';
import { channelsOf } from '../../project/sound-words';
import { fitWords } from '../../project/fit-words';
import { formatBytes } from '../../ui/format';

/** A source's facts as rows of name and value. */
export function factRows({
  facts,
  readAs,
  ...taken
}: Pick<Source, 'facts' | 'readAs' | 'fields' | 'counting' | 'soundTrack'>): readonly (readonly [
  name: string,
  value: string,
])[] {
  const { video } = facts;
  const audio = soundOf({ facts, ...taken });
  const { rate, byTime } = fileCountOf({ facts, ...taken });
  const fit = byTime ? video.varying?.fits.find((one) => sameRate(one.rate, rate)) : undefined;
  const exact = rate.den === 1 ? String(rate.num) : `${rate.num}/${rate.den} (${formatRate(rate)})`;
  const average = byTime ? `, variable, ${formatRate(video.varying!.average)} on average` : ', not constant';
  return [
    ['Container', facts.container],
    ['Picture', `${codecName(video.codec)} (${video.codecString})${video.bits ? `, ${video.bits} bit` : ''}`],
    ...(video.light ? [['Light', lightNames[video.light]] as const] : []),
    ['Size', `${video.width} × ${video.height}${video.rotation ? `, turned ${video.rotation}°` : ''}`],
    ['Rate', `${exact} fps${video.constantRate ? '' : average}${readAs ? `, read as ${formatRate(readAs)}` : ''}`],
    ['Scan', scanNames[video.scan ?? 'progressive']],
    ['Frames', fit ? `${video.frames}; at ${formatRate(rate)} fps ${fitWords(fit)}` : String(video.frames)],
    ['Duration', `${video.seconds.toFixed(3)} s`],
    ['Longest group', `${video.longestGroup} frames`],
    ['Sound', audio ? `${codecName(audio.codec)}, ${channelsOf(audio.channels)}, ${audio.sampleRate} Hz` : 'none'],
    ['File', formatBytes(facts.bytes)],
  ];
}

const lightNames = { pq: 'HDR (PQ), shown and rendered as SDR', hlg: 'HDR (HLG), shown and rendered as SDR' };

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

/** What a source's rate means at the sequence's. */
export function rateMeaning(source: Rate, sequence: Rate): string {
  const floor = realFrameFloor(source, sequence);
  const rates = `${formatRate(source)} fps on a ${formatRate(sequence)} fps sequence`;
  return floor < 1
    ? `${rates}: real frames down to ${formatPercent(floor)}`
    : `${rates}: frames repeat below ${formatPercent(floor)}`;
}
