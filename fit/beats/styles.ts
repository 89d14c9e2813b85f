import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Kinds of music that figures are told for. */
export const families = ['rock and pop', 'jazz and swing', 'latin', 'waltz', 'ballad', 'march and dance'] as const;
export type Family = (typeof families)[number];

/** A style of accompaniment, as a file of Debian's `mma` describes it. */
export interface Style {
  name: string;
  file: string;
  family: Family;
  /** Beats in a bar. */
  meter: number;
  /** Ways to play it, and those that begin a piece or lead over to the next part. */
  grooves: string[];
  intros: string[];
  fills: string[];
}

const FOLDER = '/usr/share/mma/lib/stdlib';
/** Clicks, silence, and styles whose beat may be counted in more than one way. */
const LEFT_OUT = /metronome|none|68|arpeggio/;
/** What a name says of its family; the first that fits. */
const FAMILIES: readonly [RegExp, Family][] = [
  [/waltz/, 'waltz'],
  [/ballad|lullaby|spiritual|bolero|softshoe|hymn/, 'ballad'],
  [/jazz|swing|evans|dixie|broadway|showtune|gypsy|boggie|fusion|ragtime/, 'jazz and swing'],
  [/beguine|chacha|merengue|rhumba|salsa|tango|mambo|samba|bossa|rumba|calypso|cuban|latin|^son$/, 'latin'],
  [/march|quickstep|jive|polka|twist|strut|zydeco|ska|foxtrot|folk|country|bluegrass/, 'march and dance'],
];

/**
 * The styles that are fitted to: those at even places of all, sorted by code points. Those at odd places stay unseen, so that they
 * can be judged by.
 */
export function stylesToFit(): Style[] {
  const names = readdirSync(FOLDER)
    .filter((name) => name.endsWith('.mma') && !LEFT_OUT.test(name))
    .sort();
  return names.filter((_, place) => place % 2 === 0).map(readStyle);
}

function readStyle(fileName: string): Style {
  const file = join(FOLDER, fileName);
  const name = fileName.replace(/\.mma$/, '');
  const text = readFileSync(file, 'latin1');
  const all = [...text.matchAll(/^\s*DefGroove\s+(\S+)/gm)].map(([, groove]) => groove!);
  return {
    name,
    file,
    family: FAMILIES.find(([words]) => words.test(name))?.[1] ?? 'rock and pop',
    meter: Number(/^Time\s+(\d+)/m.exec(text)?.[1] ?? 4),
    grooves: all.filter((groove) => !/Intro|End|Fill/.test(groove)),
    intros: all.filter((groove) => /Intro/.test(groove)),
    fills: all.filter((groove) => /Fill/.test(groove)),
  };
}
