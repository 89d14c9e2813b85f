import type { Source } from '@hastig/contract';
import { formatRate, rateToNumber, sourceRate } from '@hastig/core';

export type SourceOrder = 'arrival' | 'name' | 'length' | 'rate';

export const sourceOrders: readonly { value: SourceOrder; label: string }[] = [
  { value: 'arrival', label: 'Arrival' },
  { value: 'name', label: 'Name' },
  { value: 'length', label: 'Length' },
  { value: 'rate', label: 'Rate' },
];

const compare: Record<SourceOrder, (a: Source, b: Source) => number> = {
  arrival: () => 0,
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  length: (a, b) => b.facts.video.seconds - a.facts.video.seconds,
  rate: (a, b) => rateToNumber(sourceRate(b)) - rateToNumber(sourceRate(a)),
};

/** The sources that have all words of a text in their name, codec or rate, in an order; longest and fastest first. */
export function arranged(sources: readonly Source[], text: string, order: SourceOrder): Source[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const about = (source: Source): string =>
    `${source.name} ${source.facts.video.codec} ${formatRate(sourceRate(source))}`.toLowerCase();
  return sources.filter((source) => words.every((word) => about(source).includes(word))).sort(compare[order]);
}
