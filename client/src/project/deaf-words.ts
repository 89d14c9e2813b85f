import type { Clip, ProjectDocument } from '@hastig/contract';
import { findSource, soundOf } from '@hastig/core';
import { silentWords } from '@hastig/engine';

/** What to tell of a clip whose sound can't be decoded, and what to do; undefined for one that is heard or has none. */
export function deafWords(project: ProjectDocument, { of }: Clip): string | undefined {
  const source = of.kind === 'source' ? findSource(project, of.id) : undefined;
  return source && silentWords(soundOf(source));
}
