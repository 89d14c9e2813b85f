import type { ProgramSpan } from '@hastig/core';
import type { RenderJob } from './job';

/** What of a program a job writes, in its frames. */
export const spanOf = ({ program, span }: Pick<RenderJob, 'program' | 'span'>): ProgramSpan =>
  span ?? { from: 0, to: program.length };
