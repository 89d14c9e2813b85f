import type { ProjectDocument } from '@hastig/contract';
import Papa from 'papaparse';
import { programOf, type ProgramItem } from '../../program';
import { positionAt, speedAt } from '../../retime';
import { formatTimecode } from '../../time';
import { findContainer, findSource, SEQUENCE } from '../../timeline/lookup';

/** A sound of the film that a cue sheet tells of. */
interface Cue {
  clipId: string;
  item: ProgramItem;
  /** Its track, and whether it is one of sound alone. */
  track: string;
}

/** Moments at which it is looked how fast a sound runs. */
const LOOKS = 32;

/** All that is heard in the film, by its tracks and then in order: clips with sound that is not muted. */
export function soundCues(project: ProjectDocument): Cue[] {
  const tracks = findContainer(project, SEQUENCE)?.tracks ?? [];
  const nameOf = (id: string | undefined): string => tracks.find((track) => track.id === id)?.name ?? '';
  return programOf(project, SEQUENCE).tracks.flatMap(({ items, id }) =>
    items
      .filter(({ heard, of }) => heard && (of.kind === 'group' || !!findSource(project, of.id)?.facts.audio))
      .map((item) => ({ clipId: item.clipId, item, track: nameOf(id) })),
  );
}

/** LUFS and dBTP of a cue; not told where there is nothing to hear. */
export interface CueLoudness {
  integrated: number;
  truePeak: number;
}

/** Numbers as numbers: text that begins with a minus would be kept from being a formula. */
const rounded = (value: number | undefined, digits: number): number | '' =>
  value === undefined || !Number.isFinite(value) ? '' : Number(value.toFixed(digits));

/**
 * The cue sheet of the film's sound as CSV (RFC 4180): for each clip that is heard where it lies, what it is made of and which part, how
 * fast it runs, its gain, and how loud it is by itself (ITU-R BS.1770-5).
 *
 * @param loudness by the clips' ids
 */
export function cueSheetCsv(project: ProjectDocument, loudness: ReadonlyMap<string, CueLoudness>): string {
  const { rate, startFrame } = project.sequence;
  const rows = soundCues(project).map(({ clipId, item, track }, index) => {
    const { from, frames, at, map, of } = item;
    const clip = project.clips.find(({ id }) => id === clipId);
    const name =
      of.kind === 'source' ? findSource(project, of.id)?.name : project.groups.find(({ id }) => id === of.id)?.name;
    const times = Array.from({ length: LOOKS + 1 }, (_, n) => at + (frames * n) / LOOKS);
    const positions = times.map((time) => positionAt(map, time));
    const speeds = times.map((time) => speedAt(map, time));
    const heard = loudness.get(clipId);
    return {
      ...{ cue: index + 1, track, clip: clip?.name ?? '', source: name ?? '' },
      in: formatTimecode(from + startFrame, rate),
      out: formatTimecode(from + frames + startFrame, rate),
      duration: formatTimecode(frames, rate),
      source_in: formatTimecode(Math.floor(Math.max(0, Math.min(...positions))), map.sourceRate),
      source_out: formatTimecode(Math.ceil(Math.max(0, ...positions)), map.sourceRate),
      slowest: rounded(Math.min(...speeds), 3),
      fastest: rounded(Math.max(...speeds), 3),
      gain_db: rounded(item.sound?.gain ?? 0, 1),
      loudness_lufs: rounded(heard?.integrated, 1),
      peak_dbtp: rounded(heard?.truePeak, 1),
    };
  });
  const columns = ['cue', 'track', 'clip', 'source', 'in', 'out', 'duration', 'source_in', 'source_out', 'slowest', 'fastest', 'gain_db', 'loudness_lufs', 'peak_dbtp']; // prettier-ignore
  return `${Papa.unparse({ fields: columns, data: rows }, { escapeFormulae: true })}\r\n`;
}
