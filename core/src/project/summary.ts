import type { ProjectDocument, ProjectPicture } from '@hastig/contract';
import { countingOf, fileCountOf, pictureOf } from '../counting';
import { fieldsOf, framesPerFileFrame } from '../fields';
import { motionAt, programOf } from '../program';
import { rateToNumber } from '../time';
import { findSource, SEQUENCE } from '../timeline/lookup';

/** Where in the film the picture is taken that stands for it, as shares of its length: the first place where there is one. */
const PLACES = [1 / 3, 1 / 6, 1 / 12, 0, 1 / 2, 3 / 4];

/** What a list of projects tells of one. */
interface Summary {
  /** Length of the film. */
  seconds: number;
  picture: ProjectPicture | null;
}

function fileFrame(project: ProjectDocument, sourceId: string, frame: number): ProjectPicture | null {
  const source = findSource(project, sourceId);
  if (!source || !pictureOf(source.facts)) return null;
  const { sha256, facts } = source;
  const last = fileCountOf(source).frames - 1;
  return {
    ...{ sha256, bytes: facts.bytes, stills: facts.still !== undefined },
    frame: Math.min(last, Math.floor(frame / framesPerFileFrame(fieldsOf(source)))),
    counting: countingOf(source),
  };
}

/** A project's length, and the frame that stands for it: what its film shows after a third or so, or else the middle of its first source. */
export function projectSummary(project: ProjectDocument): Summary {
  const program = programOf(project, SEQUENCE);
  const seconds = program.length / rateToNumber(program.rate);
  const seen = PLACES.map((share) => motionAt(program, Math.floor(program.length * share))).find(Boolean);
  const first = project.sources.find(({ facts }) => pictureOf(facts));
  const picture = seen
    ? fileFrame(project, seen.sourceId, seen.frame)
    : first && fileFrame(project, first.id, (fileCountOf(first).frames * framesPerFileFrame(fieldsOf(first))) >> 1);
  return { seconds, picture: picture ?? null };
}
