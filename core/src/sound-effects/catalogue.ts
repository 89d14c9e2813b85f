/** What kinds of effects there are: a rush of air, a hit, something that rises towards a moment, a short knock, a low rolling. */
export const effectKinds = ['whoosh', 'impact', 'riser', 'tick', 'rumble'] as const;
export type EffectKind = (typeof effectKinds)[number];

/** An effect of the library. */
export interface Effect {
  id: string;
  name: string;
  kind: EffectKind;
  /** Words it is found by, beside its name and kind. */
  words: string;
  /** Seconds it lasts, silence before it included. */
  seconds: number;
  /** Seconds at which it is loudest. */
  loudest: number;
  /** Hertz it begins at, has where it is loudest, and ends at. */
  pitch: readonly [begin: number, loudest: number, end: number];
  /** Where it lies from left, −1, to right, 1, when it begins and ends. */
  pan: readonly [begin: number, end: number];
}

/** Seconds of silence before every effect, so that its loudest moment can be put between two frames. */
export const EFFECT_LEAD = 0.1;

const effect = (
  kind: EffectKind,
  name: string,
  words: string,
  [rise, fall]: readonly [number, number],
  pitch: Effect['pitch'],
  pan: Effect['pan'] = [0, 0],
): Effect => ({
  id: name.toLowerCase().replaceAll(' ', '-'),
  ...{ name, kind, words, pitch, pan },
  seconds: EFFECT_LEAD + rise + fall,
  loudest: EFFECT_LEAD + rise,
});

/** All effects, by kind and length. Invented for this library. */
export const effects: readonly Effect[] = [
  effect('whoosh', 'Flick', 'short fast air pass', [0.12, 0.2], [900, 3600, 1200], [-0.5, 0.5]),
  effect('whoosh', 'Swing past', 'medium air pass left right', [0.45, 0.45], [300, 2400, 350], [-0.8, 0.8]),
  effect('whoosh', 'Long pass', 'long slow air wind', [1.4, 1.2], [160, 1500, 200], [-0.6, 0.6]),
  effect('whoosh', 'Upward rush', 'rising up air', [0.9, 0.35], [180, 4200, 5200]),
  effect('whoosh', 'Downward rush', 'falling down air', [0.25, 1.1], [4200, 3600, 180]),
  effect('impact', 'Soft thud', 'short low hit drop', [0.004, 0.5], [110, 90, 45]),
  effect('impact', 'Hard hit', 'short hit crack', [0.003, 0.8], [220, 160, 55]),
  effect('impact', 'Deep boom', 'long low hit bass', [0.006, 2.6], [75, 60, 28]),
  effect('riser', 'Short rise', 'rising up tension', [1.6, 0.12], [120, 1400, 1500]),
  effect('riser', 'Long rise', 'rising up slow tension', [5.2, 0.2], [70, 1900, 2000]),
  effect('tick', 'Wood tick', 'short knock clock', [0.002, 0.12], [1250, 1250, 1180]),
  effect('tick', 'Glass tick', 'short high marble', [0.002, 0.35], [3150, 3150, 3150]),
  effect('rumble', 'Short rumble', 'low rolling ground', [0.8, 1.2], [45, 90, 40]),
  effect('rumble', 'Long rumble', 'long low rolling thunder ground', [2.6, 4.4], [38, 80, 32]),
];

/** Effects of a kind, or of all, of whose name, kind and words some begin with each word of a search, in any case. */
export function searchEffects(search: string, kind?: EffectKind): Effect[] {
  const wanted = search.toLowerCase().split(/\s+/).filter(Boolean);
  return effects.filter((one) => {
    const words = `${one.name} ${one.kind} ${one.words}`.toLowerCase().split(' ');
    return (
      (kind === undefined || one.kind === kind) && wanted.every((begin) => words.some((word) => word.startsWith(begin)))
    );
  });
}
