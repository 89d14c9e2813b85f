/** The two inner control points of a cubic from (0, 0) to (1, 1): x1, y1, x2, y2. */
export type Ease = readonly [x1: number, y1: number, x2: number, y2: number];

/** Named eases with the numbers of CSS Easing Functions Level 1 (W3C), section "cubic Bézier easing functions". */
export const eases = {
  linear: [1 / 3, 1 / 3, 2 / 3, 2 / 3],
  ease: [0.25, 0.1, 0.25, 1],
  'ease-in': [0.42, 0, 1, 1],
  'ease-out': [0, 0, 0.58, 1],
  'ease-in-out': [0.42, 0, 0.58, 1],
} as const satisfies Record<string, Ease>;

export type EaseName = keyof typeof eases;

export const easeNames = Object.keys(eases) as EaseName[];

/** The name under which a pair of normalised handles is known, if any (to 1e-9). */
export function easeName(ease: Ease): EaseName | undefined {
  return easeNames.find((name) => eases[name].every((value, index) => Math.abs(value - ease[index]!) < 1e-9));
}
