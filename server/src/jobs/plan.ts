import type { PartTask, ProjectDocument, RenderOrder } from '@hastig/contract';
import {
  clipProgram,
  findClip,
  findSource,
  formatFacts,
  pictureCodingNames,
  pictureCodingOf,
  picturePlan,
  programOf,
  SEQUENCE,
  sourcesOf,
  stretchesOf,
} from '@hastig/core';
import { HttpProblem } from '../http/problem';

/** What a render comes to. */
interface RenderPlan {
  /** Frames of the file. */
  total: number;
  /** Digests of the files it needs, each once. */
  media: string[];
  /** How its pictures are coded, by its name; null where they are not, or each is by itself. */
  needs: string | null;
  /** Its parts; what joins them is the last. */
  tasks: (Exclude<PartTask, { do: 'join' }> | { do: 'join' })[];
}

/**
 * How a render is parted: a film into its stretches, its sound, and what joins them; anything else is made at once.
 *
 * @throws HttpProblem 422 for what is not in the project, or empty
 */
export function planRender(document: ProjectDocument, { form, clipId, span }: RenderOrder): RenderPlan {
  const clip = clipId === undefined ? undefined : findClip(document, clipId);
  if (clipId !== undefined && !clip) throw new HttpProblem(422, 'The clip isn’t in the project.');
  const program = clip ? clipProgram(document, clip) : programOf(document, SEQUENCE);
  if (!(span.from < span.to && span.to <= program.length)) throw new HttpProblem(422, 'There is nothing to render.');
  const rate = form.rate ?? program.rate;
  const total = picturePlan(program, rate, {}, span).count;
  const media = [...new Set(sourcesOf(program).map((id) => findSource(document, id)!.sha256))];
  const stretches = formatFacts[form.format].kind === 'film' ? stretchesOf(total, rate, form.keyEvery) : [];
  const coding = pictureCodingOf(form);
  const needs = coding ? pictureCodingNames[coding] : null;
  if (stretches.length < 2) return { total, media, needs, tasks: [{ do: 'whole' }] };
  const sound = form.sound === false ? [] : [{ do: 'sound' } as const];
  return {
    ...{ total, media, needs },
    tasks: [...sound, ...stretches.map((stretch) => ({ do: 'pictures', ...stretch }) as const), { do: 'join' }],
  };
}
