import type { Marker, OutputForm, Rate } from '@hastig/contract';
import {
  chaptersOf,
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
import type { RenderJob } from '@hastig/engine';
import type { RangeChoice } from './output-fields';

/** What becomes files. */
export interface OrderOf {
  /** What it is called, and its project. */
  name: string;
  project: string;
  program: Program;
  /** Its own size. */
  size: Size;
  sources: RenderJob['sources'];
  /** The stretch between in and out, in frames of the program. */
  marks: { from: number | null; to: number | null };
  markers: readonly Pick<Marker, 'at' | 'name' | 'kind'>[];
  /** The frame that the film's timecode starts with; of a clip nothing is told. */
  startFrame?: number;
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
    date: new Date().toLocaleDateString('sv-SE'),
  };
}

/** A file that is to be rendered, but for where it goes. */
export interface Order {
  /** Its name without the ending. */
  name: string;
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

/** The files that a form makes of what it is about, in order. */
export function ordersFor(of: OrderOf, form: OutputForm, range: RangeChoice, pattern: string): Order[] {
  const spans = spansFor(of, range);
  const needed = Object.fromEntries(sourcesOf(of.program).map((id) => [id, of.sources[id]!]));
  const rate = form.rate ?? of.program.rate;
  return spans.map((span, index) => {
    const named = nameFrom(pattern, namePartsFor(of, form, span, index + 1));
    const { width, height } = sizeFor(form, of.size);
    const whole = span.from === 0 && span.to === of.program.length;
    return {
      name: named,
      job: {
        ...form,
        ...{ program: of.program, sources: needed, width, height, title: titleOf(of, span) },
        ...(!whole && { span: { from: span.from, to: span.to } }),
        ...{ rate, marks: marksFor(of, form, span, rate) },
        quality: form.quality ?? 'high',
        sound: form.sound !== false,
      },
    };
  });
}
