import type { Counting, MediaFacts, ProjectDocument, Rate, Source } from '@hastig/contract';
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
  if (!source?.facts.video) return project;
  const { counting: _old, readAs, ...rest } = source;
  const counted: Source = same(counting, countingOf(rest)) ? rest : { ...rest, counting };
  const times = rateRatio(fileCountOf(counted).rate, fileCountOf(source).rate);
  const wanted: Source = readAs ? { ...counted, readAs: scaledRate(readAs, times) } : counted;
  return withScaledSource(project, wanted, times);
}

/**
 * The project with a source's file looked at anew: what is known of it is more than before, and it is counted as it was, so that
 * nothing changes until it is counted another way.
 *
 * @param facts of the same file
 */
export function withFactsAnew(project: ProjectDocument, sourceId: string, facts: MediaFacts): ProjectDocument {
  const source = findSource(project, sourceId);
  if (!source) return project;
  const counted: Source = { ...source, facts, counting: countingOf(source) };
  return { ...project, sources: project.sources.map((one) => (one === source ? counted : one)) };
}

// What its frames are read at keeps its proportion to what they are counted at.
const scaledRate = (rate: Rate, times: number): Rate => rateFromNumber(rateToNumber(rate) * times, 1e-9);
