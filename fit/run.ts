import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beatsJudge, gateScore, likelihoods, type Gate, type Judge } from '@hastig/core/fit';
import { rootFolder } from '../scripts/paths';
import { choiceOf, fitJudge, FOLDS, foldsOf, type Question } from './beats/fit';
import { figures } from './beats/figures';
import { fitGate } from './beats/gate';
import { askedPieces, beatlessPieces, type AskedPiece } from './beats/questions';
import { gateFile, judgeFile } from './beats/write-judge';

/** Pieces of each style. */
const VARIANTS = 16;

/** The judges, what each is asked of a piece, and the measures of a choice. */
const judges = {
  beats: {
    question: ({ readings }: AskedPiece) => ({
      features: readings.map(({ features }) => features),
      worth: readings.map(({ f }) => f),
    }),
    best: ({ readings }: AskedPiece) => readings.map(({ best }) => best),
  },
  bars: {
    question: ({ bars }: AskedPiece) => ({
      features: bars.map(({ features }) => features),
      worth: bars.map(({ right }) => Number(right)),
    }),
    best: ({ bars }: AskedPiece) => bars.map(({ right }) => Number(right)),
  },
} as const;

const say = (words: string): void => console.log(words);

/**
 * Fits a judge, and tells how it does on styles it has not seen: each fifth of the styles is judged by what was fitted to the other
 * four.
 */
function fit(name: keyof typeof judges, pieces: readonly AskedPiece[]): Judge {
  const { question, best } = judges[name];
  const asked = pieces
    .map((piece) => ({ piece, ...question(piece) }))
    .filter(({ worth }) => worth.some((one) => one > 0))
    .map(({ piece, ...one }) => ({
      piece,
      question: { ...one, style: piece.style, weight: piece.weight } satisfies Question,
    }));
  const styles = [...new Set(pieces.filter(({ weight }) => weight === 1).map(({ style }) => style))];
  const folds = foldsOf(styles);
  const rows = Array.from({ length: FOLDS }, (_, fold) => {
    const left = asked.filter(({ piece }) => folds.get(piece.style) === fold);
    const judge = fitJudge(asked.filter((one) => !left.includes(one)).map((one) => one.question));
    return left.map((one) => {
      const choice = choiceOf(judge, one.question);
      const { family, reference } = one.piece;
      return { family, fold, f: one.question.worth[choice]!, best: best(one.piece)[choice]!, reference };
    });
  }).flat();
  for (const words of figures(rows)) say(`${name}: ${words}`);
  return fitJudge(asked.map((one) => one.question));
}

const [name, variants] = process.argv.slice(2);
/** Sounds without a beat of each kind. */
const BEATLESS = 50;

/** Fits what tells music from sound without a beat, and tells how far apart the two are where half of each was left out. */
async function fitGateTo(pieces: readonly AskedPiece[]): Promise<string> {
  const music = pieces
    .map(({ readings }) => ({
      features: readings.map(({ features }) => features),
      f: readings.map(({ f }) => f),
      beat: true,
    }))
    .filter(({ features, f }) => f[choiceOf(beatsJudge, { features })]! > 0.9);
  const none = (await beatlessPieces(BEATLESS)).map((features) => ({ features, beat: false }));
  const all = [...music, ...none.filter(({ features }) => features.length > 0)];
  const half = fitGate(
    beatsJudge,
    all.filter((_, i) => i % 2 === 0),
  ).gate;
  const left = all.filter((_, i) => i % 2 === 1).map(({ features, beat }) => ({ beat, score: gateOf(half, features) }));
  const scores = (side: boolean): number[] => left.filter(({ beat }) => beat === side).map(({ score }) => score);
  say(`gate: ${scores(false).length} sounds without a beat at most ${Math.max(...scores(false)).toFixed(1)}`);
  say(`gate: ${scores(true).length} pieces of music at least ${Math.min(...scores(true)).toFixed(1)}`);
  return gateFile(fitGate(beatsJudge, all).gate, music.length, all.length - music.length);
}

function gateOf(gate: Gate, features: number[][]): number {
  const likely = likelihoods(beatsJudge, features);
  const share = Math.max(...likely);
  return gateScore(gate, beatsJudge, features[likely.indexOf(share)]!, share);
}

if (name !== 'beats' && name !== 'bars' && name !== 'gate') {
  console.error('npm run fit -- beats|bars|gate [pieces of each style]');
  process.exit(1);
}
const pieces = await askedPieces(Number(variants ?? VARIANTS), say);
const folder = join(rootFolder, 'core/src/beats');
if (name === 'gate') writeFileSync(join(folder, 'beat-gate.ts'), await fitGateTo(pieces));
else writeFileSync(join(folder, `${name}-judge.ts`), await judgeFile(name, fit(name, pieces), pieces.length));
