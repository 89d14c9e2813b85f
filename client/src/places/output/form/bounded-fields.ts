import { OUTPUT_BOUNDS } from '@hastig/contract';
import { even } from '@hastig/core';
import { countField, numberField } from '../../../form/specs';

/** A number within bounds. */
export const boundField = (label: string, initial: string, { least, most }: { least: number; most: number }) =>
  numberField(label, initial, least, most);

/** A whole number within bounds. */
export const countBetween = (label: string, initial: string, { least, most }: { least: number; most: number }) => {
  const field = countField(label, initial, least);
  return {
    ...field,
    parse: (text: string) => {
      const parsed = field.parse(text);
      return parsed.ok && parsed.value > most ? ({ ok: false, reason: `must be at most ${most}` } as const) : parsed;
    },
  };
};

/** Pixels of a side; said where they are not as many as are coded. */
export const sideField = (label: string, initial: number) => ({
  ...countBetween(label, String(initial), OUTPUT_BOUNDS.side),
  comesTo: (text: string) => {
    const typed = Number(text);
    return typed > 0 && even(typed) !== typed ? `Becomes ${even(typed)}.` : undefined;
  },
});
