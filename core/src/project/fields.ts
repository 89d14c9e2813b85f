import type { Clip, Fields, ProjectDocument, Source, Span, Stretch } from '@hastig/contract';
import { fieldsOf, framesPerFileFrame, suggestedFields } from '../fields';
import { findSource } from '../timeline/lookup';

function scaledSpan(span: Span, times: number): Span {
  const y = span.of === 'position' ? (span.y.map((frame) => frame * times) as Span['y']) : span.y;
  return { ...span, y, ...(span.jump !== undefined && { jump: span.jump * times }) };
}

// The same moments of the source, counted in frames of which there are `times` as many.
function scaledClip(clip: Clip, times: number): Clip {
  const { start, spans, pins } = clip.timing;
  const timing: Clip['timing'] = {
    ...clip.timing,
    start: start * times,
    spans: spans.map((span) => scaledSpan(span, times)),
    ...(pins && { pins: pins.map((pin) => ({ ...pin, source: pin.source * times })) }),
  };
  return { ...clip, timing };
}

function scaledPart({ from, frames }: Stretch, times: number): Stretch {
  const [start, end] = [Math.floor(from * times), Math.ceil((from + frames) * times)];
  return { from: start, frames: end - start };
}

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
  const times = framesPerFileFrame(wanted) / framesPerFileFrame(fieldsOf(source));
  const { fields: _old, part, markers, ...rest } = source;
  const changed: Source = {
    ...rest,
    ...(!same(wanted, suggested) && { fields: wanted }),
    ...(part && { part: scaledPart(part, times) }),
    ...(markers && { markers: markers.map((marker) => ({ ...marker, at: Math.floor(marker.at * times) })) }),
  };
  const mine = ({ of }: Clip): boolean => of.kind === 'source' && of.id === sourceId;
  return {
    ...project,
    sources: project.sources.map((one) => (one.id === sourceId ? changed : one)),
    clips: times === 1 ? project.clips : project.clips.map((clip) => (mine(clip) ? scaledClip(clip, times) : clip)),
  };
}
