import type { MediaFacts, Rate } from '@hastig/contract';
import { formatPercent, formatRate, realFrameFloor } from '@hastig/core';
import { codecName } from '@hastig/engine';
import { formatBytes } from '../../ui/format';

/** A source's facts as rows of name and value. */
export function factRows(facts: MediaFacts, readAs?: Rate): readonly (readonly [name: string, value: string])[] {
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
    ['Frames', String(video.frames)],
    ['Duration', `${video.seconds.toFixed(3)} s`],
    ['Longest group', `${video.longestGroup} frames`],
    ['Sound', audio ? `${codecName(audio.codec)}, ${channelsOf(audio.channels)}, ${audio.sampleRate} Hz` : 'none'],
    ['File', formatBytes(facts.bytes)],
  ];
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
    : `${rates}: slower than real time, frames repeat`;
}
