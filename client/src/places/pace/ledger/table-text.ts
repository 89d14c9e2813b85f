import type { RetimeMap, Span } from '@hastig/contract';
import {
  easeName,
  eases,
  easeNames,
  EditRefused,
  formatMoment,
  formatPercent,
  formatSourceFrame,
  fromPositionKeys,
  keysOf,
  parseMoment,
  parseSourceFrame,
  parseSpeed,
  rampSpan,
  constantSpan,
  spanEase,
  type EaseName,
  type Interpolation,
  type Parsed,
  type TimeUnit,
} from '@hastig/core';
import Papa from 'papaparse';

/** The columns of a copied table, in their order. */
const columns = ['output', 'source', 'speed in', 'speed out', 'ease'] as const;
type Column = (typeof columns)[number];

/** What a part's interpolation is called: an ease of CSS, or what else it is. */
export function interpolationName(span: Span): string {
  if (span.of === 'position') return 'positions';
  const ease = spanEase(span);
  if (!ease) return span.y[1] === span.y[0] ? 'constant' : 'custom';
  return easeName(ease) ?? 'custom';
}

/** All keys as text for a spreadsheet, tabs between columns. */
export function toTable(map: RetimeMap, unit: TimeUnit): string {
  const rows = keysOf(map).map(({ index, output, source, speedIn, speedOut }) => {
    const span = map.spans[index];
    return [
      formatMoment(output, map.outputRate, unit),
      formatSourceFrame(source, unit),
      speedIn === undefined ? '' : formatPercent(speedIn),
      speedOut === undefined ? '' : formatPercent(speedOut),
      span ? interpolationName(span) : '',
    ];
  });
  return Papa.unparse([[...columns], ...rows], { delimiter: '\t', newline: '\n' });
}

interface Table {
  at(row: number, column: Column): string | undefined;
  has(column: Column): boolean;
  rows: number;
  /** Number of a row as people count them in what they pasted. */
  named(row: number): number;
}

const refuse = (reason: string): never => {
  throw new EditRefused('table', reason);
};

function readTable(text: string): Table {
  const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: 'greedy' });
  if (data.length === 0) refuse('The table is empty. Paste at least two columns: output and source.');
  const first = data[0]!.map((cell) => cell.trim().toLowerCase());
  const headed = first.some((cell) => (columns as readonly string[]).includes(cell));
  const names = headed ? first : (['output', 'source'] as string[]);
  for (const needed of ['output', 'source']) {
    if (!names.includes(needed)) refuse(`The table has no column “${needed}”. It has: ${first.join(', ')}.`);
  }
  const body = headed ? data.slice(1) : data;
  const table: Table = {
    at: (row, column) => body[row]![names.indexOf(column)]?.trim(),
    has: (column) => names.includes(column),
    rows: body.length,
    named: (row) => row + (headed ? 2 : 1),
  };
  body.forEach((cells, row) => {
    if (cells.length < 2) refuse(`Row ${table.named(row)} has only one column. Each row needs output and source.`);
  });
  return table;
}

/**
 * The map that a pasted table describes: by speeds where it has them, else by positions.
 *
 * @param how positions run from row to row
 * @throws EditRefused naming the row and the column that is wrong
 */
export function fromTable(map: RetimeMap, text: string, unit: TimeUnit, how: Interpolation): RetimeMap {
  const table = readTable(text);
  const number = (row: number, column: Column, parse: (text: string) => Parsed): number => {
    const parsed = parse(table.at(row, column) ?? '');
    if (parsed.ok) return parsed.value;
    return refuse(`Row ${table.named(row)}: ${column} ${parsed.reason}.`);
  };
  const keys = Array.from({ length: table.rows }, (_, row) => ({
    output: number(row, 'output', (entry) => parseMoment(entry, map.outputRate, unit)),
    source: number(row, 'source', (entry) => parseSourceFrame(entry, unit)),
  }));
  const positions = fromPositionKeys(map, keys, how);
  if (!table.has('speed in') || !table.has('speed out')) return positions;
  const spans = keys.slice(1).map((key, row): Span => {
    const [from, to] = [number(row, 'speed out', parseSpeed), number(row + 1, 'speed in', parseSpeed)];
    const frames = key.output - keys[row]!.output;
    const name = table.at(row, 'ease') as EaseName;
    return from === to
      ? constantSpan(from, frames)
      : rampSpan(from, to, frames, eases[easeNames.includes(name) ? name : 'linear']);
  });
  return { ...positions, start: keys[0]!.source, spans };
}
