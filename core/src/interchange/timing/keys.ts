import { checkMapFile, describeErrors, type ProjectDocument, type RetimeMap, type Span } from '@hastig/contract';
import Papa from 'papaparse';
import { compile, positionAt, speedAt, speedBefore } from '../../retime';
import { mapOf } from '../../timeline/clip-map';
import { withTiming } from '../../timeline/edit/length';

/** Thrown for a file of keys that can't be read; says what is wrong and where. */
export class KeysUnreadable extends Error {
  override readonly name = 'KeysUnreadable';
}

const columns = ['clip_id', 'clip', 'span', 'at', 'frames', 'position', 'speed_in', 'speed_out', 'of', 'x1', 'x2', 'y0', 'y1', 'y2', 'y3', 'jump', 'locked'] as const; // prettier-ignore
type Row = Record<(typeof columns)[number], string>;

/**
 * The speed keys of clips as CSV (RFC 4180), a row for each span between two of them. For people: where it begins in the clip's output,
 * how many frames it lasts, the source position at its beginning, the speed there and at its end. To read it back exactly: what its curve
 * is of, `speed` or `position`, and that Bézier's two handles and four values.
 *
 * @param clipIds of which clips; all that are there unless told
 */
export function keysCsv(project: ProjectDocument, clipIds = project.clips.map(({ id }) => id)): string {
  const wanted = new Set(clipIds);
  const rows = project.clips
    .filter(({ id }) => wanted.has(id))
    .flatMap((clip) => {
      const map = mapOf(project, clip);
      const { times } = compile(map);
      return map.spans.map(({ of, frames, x, y, jump, locked }, index) => [
        ...[clip.id, clip.name, index + 1, times[index]!, frames],
        ...[positionAt(map, times[index]!), speedAt(map, times[index]!), speedBefore(map, times[index + 1]!)],
        ...[of, ...x, ...y, jump ?? '', locked ? 'locked' : ''],
      ]);
    });
  // Numbers are left as they are, whatever they begin with.
  return `${Papa.unparse({ fields: [...columns], data: rows }, { escapeFormulae: true })}\r\n`;
}

function numberIn(row: Row, name: (typeof columns)[number], line: number): number {
  const text = (row[name] ?? '').trim();
  const value = Number(text);
  if (text === '' || !Number.isFinite(value))
    throw new KeysUnreadable(`row ${line}: ${name} “${text}” isn’t a number.`);
  return value;
}

function spanOf(row: Row, line: number): Span {
  const of = (row.of ?? '').trim();
  if (of !== 'speed' && of !== 'position')
    throw new KeysUnreadable(`row ${line}: “${of}” is neither speed nor position.`);
  const read = (name: (typeof columns)[number]): number => numberIn(row, name, line);
  return {
    ...{ of, frames: read('frames'), x: [read('x1'), read('x2')] },
    y: [read('y0'), read('y1'), read('y2'), read('y3')],
    ...(row.jump?.trim() && { jump: read('jump') }),
    ...(row.locked?.trim() && { locked: true }),
  };
}

const sameKeys = (one: RetimeMap, other: RetimeMap): boolean => keysKey(one) === keysKey(other);

const keysKey = ({ start, spans }: RetimeMap): string =>
  JSON.stringify([
    start,
    spans.map(({ of, frames, x, y, jump = 0, locked = false }) => [of, frames, x, y, jump, locked]),
  ]);

/** What keys that were read came to. */
interface ReadKeys {
  project: ProjectDocument;
  /** How many clips got another timing; those whose keys are as they were are left alone. */
  clips: number;
  /** What was left out, in words. */
  notes: string[];
}

/**
 * Reads speed keys back and gives them to the clips they are of: by their ids, else by their names where one clip alone has it.
 *
 * @throws KeysUnreadable naming the row; EditRefused where a clip would last for ever
 */
export function readKeys(text: string, project: ProjectDocument): ReadKeys {
  const { data, meta } = Papa.parse<Row>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (header) => header.trim().toLowerCase(),
  });
  const missing = ['frames', 'position', 'of', 'x1', 'x2', 'y0', 'y1', 'y2', 'y3'].filter(
    (name) => !meta.fields?.includes(name),
  );
  if (missing.length > 0)
    throw new KeysUnreadable(`the first row must name the columns: ${missing.join(', ')} missing.`);
  const rows = new Map<string, { row: Row; line: number }[]>();
  data.forEach((row, index) => {
    // A name that was kept from being a formula is what it was.
    const bare = (text = ''): string => text.trim().replace(/^'(?=[=+\-@])/, '');
    const key = `${bare(row.clip_id)}\n${bare(row.clip)}`;
    const its = rows.get(key) ?? [];
    rows.set(key, its);
    its.push({ row, line: index + 2 });
  });
  const notes: string[] = [];
  let [now, clips] = [project, 0];
  for (const [key, spans] of rows) {
    const [id, name] = key.split('\n') as [string, string];
    const named = project.clips.filter((clip) => clip.name === name);
    const clip = project.clips.find((one) => one.id === id) ?? (named.length === 1 ? named[0] : undefined);
    if (!clip) {
      notes.push(named.length > 1 ? `More than one clip is called “${name}”.` : `No clip “${name || id}” is here.`);
      continue;
    }
    const before = mapOf(now, clip);
    const map: RetimeMap = {
      ...{ sourceRate: before.sourceRate, outputRate: before.outputRate, sourceFrames: before.sourceFrames },
      start: numberIn(spans[0]!.row, 'position', spans[0]!.line) - (spanOf(spans[0]!.row, spans[0]!.line).jump ?? 0),
      spans: spans.map(({ row, line }) => spanOf(row, line)),
    };
    const checked = checkMapFile(map);
    if (!checked.ok) throw new KeysUnreadable(`row ${spans[0]!.line}: the keys of “${clip.name}” can’t be: ${describeErrors(checked.errors)}.`); // prettier-ignore
    // What is as it was keeps its pins too.
    if (sameKeys(before, map)) continue;
    now = withTiming(now, clip.id, map);
    clips++;
  }
  return { project: now, clips, notes };
}
