import type { Counting, ProjectDocument, Rate, Source } from '@hastig/contract';
import { countingOf, fileCountOf } from '../counting';
import { rateFromNumber, rateRatio, rateToNumber, sameRate } from '../time';
import { findSource } from '../timeline/lookup';
import { withScaledSource } from './scaled-source';

const same = (a: Counting, b: Counting): boolean =>
  a.by === b.by && (a.rate && b.rate ? sameRate(a.rate, b.rate) : a.rate === b.rate);

/**
 * The project with a source of irregular frames counted another way. Its part, its markers and the timing of its clips go
 * along: between two even rates every clip shows the same moments at the same times as before; frame by frame its clips are as
 * long as before, and what they show shifts by as much as its frames are irregular.
 */
export function withCounting(project: ProjectDocument, sourceId: string, counting: Counting): ProjectDocument {
  const source = findSource(project, sourceId);
  if (!source?.facts.video?.varying) return project;
  const { counting: _old, readAs, ...rest } = source;
  const counted: Source = same(counting, countingOf(rest)) ? rest : { ...rest, counting };
  const times = rateRatio(fileCountOf(counted).rate, fileCountOf(source).rate);
  const wanted: Source = readAs ? { ...counted, readAs: scaledRate(readAs, times) } : counted;
  return withScaledSource(project, wanted, times);
}

// What its frames are read at keeps its proportion to what they are counted at.
const scaledRate = (rate: Rate, times: number): Rate => rateFromNumber(rateToNumber(rate) * times, 1e-9);
