import seedrandom from 'seedrandom';
import type { Family, Style } from './styles';

/** How a piece of music is made; the same seed makes the same. */
export interface Recipe {
  id: string;
  style: Style;
  /** Beats a minute, at first. */
  tempo: number;
  /** For each bar how it is played, and its chords: one, or two of half a bar. */
  bars: { groove: string; chords: string[] }[];
  soundFont: string;
  /** Seconds by which each note may lie off, and how the tempo changes. */
  loose: number;
  course: 'even' | 'drift' | 'step';
  /** How much the tempo changes in all: 0.1 is a tenth faster. */
  change: number;
  /** What the sound went through. */
  through: 'nothing' | 'mp3' | 'room' | 'noise' | 'voice';
  /** Seconds that are cut off its beginning. */
  cut: number;
  seconds: number;
}

const SOUND_FONTS = ['TimGM6mb.sf2', 'FluidR3_GM.sf2'] as const;
/** Tempi that are usual for a family, beats a minute (common practice, from memory). */
const USUAL: Record<Family, readonly [number, number]> = {
  'rock and pop': [84, 160],
  'jazz and swing': [90, 200],
  latin: [90, 180],
  waltz: [84, 190],
  ballad: [60, 110],
  'march and dance': [90, 200],
};
/** Any tempo, where the usual one is not asked for. */
const ANY = [64, 190] as const;
/** Progressions, as steps of a key and what kind of chord stands on them. */
const PROGRESSIONS = [
  ['0', '9m', '5', '7'],
  ['0', '5', '0', '7'],
  ['0M7', '9m7', '2m7', '77'],
  ['0', '7', '9m', '5'],
  ['9m', '5', '0', '7'],
  ['07', '07', '57', '07', '77', '57', '07', '77'],
  ['2m7', '77', '0M7', '0M7'],
  ['0', '4m', '5', '5m'],
  ['0m', '8', '3', '10'],
  ['0', '0', '5', '5', '7', '7', '0', '0'],
  ['0m', '0m', '5m', '77'],
] as const;
const NOTES = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'] as const;

function chord(step: string, key: number): string {
  const [, number, kind] = /^(10|\d)(.*)$/.exec(step)!;
  return NOTES[(Number(number) + key) % 12]! + kind!;
}

/** The `variant`th way to make a piece in a style. */
export function drawRecipe(style: Style, variant: number, seed = 'hastig'): Recipe {
  const random = seedrandom(`${seed} ${style.name} ${variant}`);
  const between = (from: number, to: number): number => from + (to - from) * random();
  const oneOf = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!;
  const chance = (share: number): boolean => random() < share;
  const [slow, fast] = chance(0.6) ? USUAL[style.family] : ANY;
  const drawn = slow * (fast / slow) ** random();
  const tempo = chance(0.7) ? Math.round(drawn) : Math.round(drawn * 100) / 100;
  const seconds = 32;
  const cut = chance(0.4) ? between(0, 5) : 0;
  const count = Math.ceil(((seconds + cut) * tempo * 1.15) / 60 / style.meter) + 2;
  const key = Math.floor(random() * 12);
  const progression = oneOf(PROGRESSIONS);
  const [main, other] = [oneOf(style.grooves), oneOf(style.grooves)];
  const intro = style.intros.length > 0 && chance(0.4) ? oneOf(style.intros) : undefined;
  const filled = style.fills.length > 0 && chance(0.6) ? oneOf(style.fills) : undefined;
  const part = oneOf([4, 8]);
  const halfBars = chance(0.25) ? 0.4 : 0;
  const held = chance(0.2) ? 2 : 1;
  const bars = Array.from({ length: count }, (_, bar) => {
    const groove =
      intro && bar < 4
        ? intro
        : filled && bar % part === part - 1
          ? filled
          : Math.floor(bar / part) % 3 === 2
            ? other
            : main;
    const at = Math.floor(bar / held);
    const here = chord(progression[at % progression.length]!, key);
    const next = chord(progression[(at + 1) % progression.length]!, key);
    return { groove, chords: style.meter % 2 === 0 && chance(halfBars) ? [here, next] : [here] };
  });
  const course = oneOf(['even', 'even', 'even', 'drift', 'step'] as const);
  return {
    id: `${style.name}-${variant}`,
    style,
    tempo,
    bars,
    soundFont: oneOf(SOUND_FONTS),
    loose: chance(0.4) ? between(0.005, 0.02) : 0,
    course,
    change: course === 'even' ? 0 : between(0.03, 0.12) * (chance(0.5) ? 1 : -1),
    through: chance(0.5) ? 'nothing' : oneOf(['mp3', 'room', 'noise', 'voice'] as const),
    cut,
    seconds,
  };
}
