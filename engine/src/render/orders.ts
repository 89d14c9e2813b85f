import type { Clip, Marker, OutputForm, ProjectDocument, Rate, RetimeMap } from '@hastig/contract';
import {
  chaptersOf,
  clipProgram,
  findSource,
  pictureOf,
  pictureSize,
  programOf,
  SEQUENCE,
  even,
  formatRate,
  markerSpans,
  nameFrom,
  programFrames,
  sourcesOf,
  startTimecode,
  type FileMarks,
  type NamePart,
  type OutputSpan,
  type Program,
  type Size,
} from '@hastig/core';
import { formatISO } from 'date-fns';
import type { SourceLocations } from '../media/source-pool';
import type { RenderJob } from './job';

/** What of it: all, what lies between in and out, or a file from each marker to the next. */
export type RangeChoice = 'all' | 'marked' | 'markers';

/** What becomes files. */
export interface OrderOf {
  /** What it is called, and its project. */
  name: string;
  project: string;
  program: Program;
  /** Its own size. */
  size: Size;
  sources: SourceLocations;
  /** The stretch between in and out, in frames of the program. */
  marks: { from: number | null; to: number | null };
  markers: readonly Pick<Marker, 'at' | 'name' | 'kind'>[];
  /** The frame that the film's timecode starts with; of a clip nothing is told. */
  startFrame?: number;
}

interface OrderFrom extends Pick<OrderOf, 'sources'> {
  marks?: OrderOf['marks'];
}

const unmarked = { from: null, to: null };

/** The whole film of a project. */
export function filmOrder(project: ProjectDocument, { sources, marks = unmarked }: OrderFrom): OrderOf {
  const { width, height, markers, startFrame } = project.sequence;
  const program = programOf(project, SEQUENCE);
  const named = { name: project.name, project: project.name };
  return { ...named, program, size: { width, height }, sources, marks, markers, startFrame };
}

/** A clip of it by itself, with all of its timing. @param map as it is worked on; as the project has it unless told */
export function clipOrder(
  project: ProjectDocument,
  clip: Clip,
  { sources, marks = unmarked, map }: OrderFrom & { map?: RetimeMap },
): OrderOf {
  const { width, height } = pictureSize(project, clip);
  const program = clipProgram(project, clip, map);
  const named = { name: clip.name, project: project.name };
  return { ...named, program, size: { width, height }, sources, marks, markers: [] };
}

/** What of it can be seen and heard: of nothing, a picture that is black. */
export function contentsOf(project: ProjectDocument, { program }: Pick<OrderOf, 'program'>) {
  const facts = sourcesOf(program).flatMap((id) => findSource(project, id)?.facts ?? []);
  return {
    audible: facts.some(({ audio }) => audio),
    seen: facts.length === 0 || facts.some((one) => pictureOf(one) !== null),
  };
}

/** The stretches that become files, each one; none where there is nothing. */
export function spansFor({ program, marks, markers }: OrderOf, range: RangeChoice): OutputSpan[] {
  const frames = programFrames(program);
  if (program.length === 0) return [];
  if (range === 'all') return [{ from: 0, to: program.length }];
  if (range === 'markers') return markerSpans(markers, frames);
  const [from, to] = [Math.max(0, marks.from ?? 0), Math.min(program.length, marks.to ?? program.length)];
  return to > from ? [{ from, to }] : [];
}

/** The size that a form's pictures get: whole and even. */
export const sizeFor = ({ width, height }: OutputForm, own: Size): Size => ({
  width: even(width ?? own.width),
  height: even(height ?? own.height),
});

/** What may stand in the name of a file. */
export function namePartsFor(
  { name, project, program, size }: OrderOf,
  form: OutputForm,
  span: OutputSpan | undefined,
  number: number,
): Readonly<Record<NamePart, string>> {
  const { width, height } = sizeFor(form, size);
  return {
    ...{ name, project },
    // As it is marked: the first frame and the last.
    range: span?.name ?? (span ? `${Math.round(span.from)}-${Math.ceil(span.to) - 1}` : ''),
    number: String(number).padStart(2, '0'),
    size: `${width}x${height}`,
    rate: formatRate(form.rate ?? program.rate),
    // A browser's own words for dates take it 40 ms to load.
    date: formatISO(new Date(), { representation: 'date' }),
  };
}

/** A file that is to be rendered, but for where it goes. */
export interface Order {
  /** Its name without the ending. */
  name: string;
  span: OutputSpan;
  job: Omit<RenderJob, 'target'>;
}

const titleOf = ({ name }: OrderOf, span: OutputSpan): string => span.name ?? name;

/** What is written into a file beside picture and sound. */
function marksFor(of: OrderOf, form: OutputForm, span: OutputSpan, rate: Rate): FileMarks {
  const { program, markers, startFrame } = of;
  return {
    rate: program.rate,
    frames: span.to - span.from,
    chapters: chaptersOf(markers, span, titleOf(of, span), form.chapters),
    ...(startFrame !== undefined && {
      timecode: startTimecode(startFrame + Math.floor(span.from), program.rate, rate),
    }),
  };
}

/** What is to be rendered of it for one file, by a form; the sources it needs and no others. */
export function jobOf(of: OrderOf, form: OutputForm, span: OutputSpan): Order['job'] {
  const needed = Object.fromEntries(sourcesOf(of.program).map((id) => [id, of.sources[id]!]));
  const rate = form.rate ?? of.program.rate;
  const { width, height } = sizeFor(form, of.size);
  const whole = span.from === 0 && span.to === of.program.length;
  return {
    ...form,
    ...{ program: of.program, sources: needed, width, height, title: titleOf(of, span) },
    ...(!whole && { span: { from: span.from, to: span.to } }),
    ...{ rate, marks: marksFor(of, form, span, rate) },
    quality: form.quality ?? 'high',
    sound: form.sound !== false,
  };
}

/** The files that a form makes of what it is about, in order. */
export function ordersFor(of: OrderOf, form: OutputForm, range: RangeChoice, pattern: string): Order[] {
  return spansFor(of, range).map((span, index) => ({
    name: nameFrom(pattern, namePartsFor(of, form, span, index + 1)),
    span,
    job: jobOf(of, form, span),
  }));
}
