/** What becomes of each colour's linear light: so many times what it was, and so much more, full light being 1. */
export interface Lit {
  times: readonly [red: number, green: number, blue: number];
  plus: readonly [red: number, green: number, blue: number];
}

/** How pictures are put together. `lightest`: of each colour the most light; `over`: each over those before it. */
export interface Mixing {
  combine: 'sum' | 'lightest' | 'over';
  /** What becomes of the light of all together then. */
  lit?: Lit;
}

/** A sum, as of a shutter that stays open. */
export const plainSum: Mixing = { combine: 'sum' };

/** One after the other, as one. */
export const litTwice = (first: Lit | undefined, then: Lit): Lit =>
  first
    ? {
        times: [0, 1, 2].map((n) => first.times[n]! * then.times[n]!) as [number, number, number],
        plus: [0, 1, 2].map((n) => first.plus[n]! * then.times[n]! + then.plus[n]!) as [number, number, number],
      }
    : then;
