import type { Judge } from '@hastig/core/fit';
import { figures, type Row } from './figures';
import { choiceOf, fitJudge, FOLDS, foldsOf, type Question } from './fit';
import type { AskedPiece } from './questions';

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

export type JudgeName = keyof typeof judges;

type Asked = { piece: AskedPiece; question: Question };

/** What a judge is asked of the pieces in which some way is right. */
function asked(name: JudgeName, pieces: readonly AskedPiece[]): Asked[] {
  return pieces
    .map((piece) => ({
      piece,
      question: { ...judges[name].question(piece), style: piece.style, weight: piece.weight },
    }))
    .filter(({ question }) => question.worth.some((one) => one > 0));
}

/** A judge that is fitted to all pieces. */
export const judgeOf = (name: JudgeName, pieces: readonly AskedPiece[]): Judge =>
  fitJudge(asked(name, pieces).map(({ question }) => question));

/**
 * How a judge does on styles it has not seen: each fifth of the styles is judged by what was fitted to the other four. In words, by
 * family and over all, beside the package `music-tempo`.
 */
export function leftOutFigures(name: JudgeName, pieces: readonly AskedPiece[]): string[] {
  const all = asked(name, pieces);
  const folds = foldsOf([...new Set(pieces.filter(({ weight }) => weight === 1).map(({ style }) => style))]);
  const rows = Array.from({ length: FOLDS }, (_, fold): Row[] => {
    const left = all.filter(({ piece }) => folds.get(piece.style) === fold);
    const judge = fitJudge(all.filter((one) => !left.includes(one)).map(({ question }) => question));
    return left.map(({ piece, question }) => {
      const choice = choiceOf(judge, question);
      const { family, reference } = piece;
      return { family, fold, f: question.worth[choice]!, best: judges[name].best(piece)[choice]!, reference };
    });
  });
  return figures(rows.flat());
}
