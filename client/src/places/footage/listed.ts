import type { Source } from '@hastig/contract';
import { formatRate, kindOf, rateToNumber, sourceFrames, sourceRate } from '@hastig/core';

export type SourceOrder = 'arrival' | 'name' | 'length' | 'rate';

export const sourceOrders: readonly { value: SourceOrder; label: string }[] = [
  { value: 'arrival', label: 'Import order' },
  { value: 'name', label: 'Name' },
  { value: 'length', label: 'Duration' },
  { value: 'rate', label: 'Frame rate' },
];

// A still lasts as long as one likes: in order of length it is the shortest.
const secondsOf = (source: Source): number =>
  kindOf(source.facts) === 'still' ? 0 : sourceFrames(source) / rateToNumber(sourceRate(source));
const codecsOf = ({ facts: { video, still, audio } }: Source): string =>
  [video?.codec, still?.codec, audio?.codec, still ? 'still' : video ? '' : 'sound'].filter(Boolean).join(' ');
const isPicture = ({ facts }: Source): boolean => kindOf(facts) === 'video' || kindOf(facts) === 'stills';
const framesOf = (source: Source): number => (isPicture(source) ? rateToNumber(sourceRate(source)) : 0);
const rateOf = (source: Source): string => (isPicture(source) ? formatRate(sourceRate(source)) : '');

const compare: Record<SourceOrder, (a: Source, b: Source) => number> = {
  arrival: () => 0,
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  length: (a, b) => secondsOf(b) - secondsOf(a),
  rate: (a, b) => framesOf(b) - framesOf(a),
};

/** The sources that have all words of a text in their name, codec or rate, in an order; longest and fastest first. */
export function listed(sources: readonly Source[], text: string, order: SourceOrder): Source[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const about = (source: Source): string => `${source.name} ${codecsOf(source)} ${rateOf(source)}`.toLowerCase();
  return sources.filter((source) => words.every((word) => about(source).includes(word))).sort(compare[order]);
}
