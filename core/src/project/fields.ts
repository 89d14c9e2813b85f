import type { Fields, ProjectDocument } from '@hastig/contract';
import { fieldsOf, framesPerFileFrame, suggestedFields } from '../fields';
import { fileCountOf } from '../counting';
import { rateRatio } from '../time';
import { findSource } from '../timeline/lookup';
import { withScaledSource } from './scaled-source';

const same = (a: Fields, b: Fields): boolean => a.use === b.use && (a.use === 'woven' || a.first === b.first);

/**
 * The project with a source's fields taken another way. Where that doubles or halves its frames, its part, its markers and
 * the timing of its clips go along, so that every clip shows the same moments at the same times as before.
 *
 * @param fields undefined for what the file's scan suggests
 */
export function withFields(project: ProjectDocument, sourceId: string, fields: Fields | undefined): ProjectDocument {
  const source = findSource(project, sourceId);
  if (!source) return project;
  const suggested = suggestedFields(source);
  const wanted = fields ?? suggested;
  const { fields: _old, ...rest } = source;
  const changed = { ...rest, ...(!same(wanted, suggested) && { fields: wanted }) };
  const perFrame = framesPerFileFrame(wanted) / framesPerFileFrame(fieldsOf(source));
  // Both fields as frames go frame by frame, also where the file's were counted along its time.
  const times = perFrame * rateRatio(fileCountOf(changed).rate, fileCountOf(source).rate);
  return withScaledSource(project, changed, times);
}
