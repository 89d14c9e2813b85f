import type { Arrangement } from '../ui/use-wide';

/** Pixels of a phone's stage that is a strip: the picture at the left, its numbers and controls beside it. */
export const STRIP = 112;
/** Pixels below which a stage has no room for its controls beneath the picture. */
export const STRIP_BELOW = 180;
/** Pixels of the divider between stage and place, as a finger needs it and as the mouse does. */
export const DIVIDER = { phone: 16, turned: 12, wide: 9 } as const satisfies Record<Arrangement, number>;

/** Pixels that the stage has at least, and that it leaves to the place. */
const least = {
  phone: { stage: STRIP, place: 150 },
  turned: { stage: 200, place: 300 },
  wide: { stage: 180, place: 230 },
} as const satisfies Record<Arrangement, { stage: number; place: number }>;

/** Height in pixels below which a phone's picture begins as a strip, so that a curve has room beneath it. */
const LOW_PHONE = 620;

/**
 * The stage's part of the window until it is dragged, from 0 to 1.
 *
 * @param length pixels that stage and place share
 */
export function defaultShare(arrangement: Arrangement, length: number): number {
  if (arrangement === 'turned') return 0.45;
  if (arrangement === 'phone') return length < LOW_PHONE ? STRIP / length : Math.max(0.36, 230 / length);
  return length > 900 ? 0.54 : 0.45;
}

/** Pixels of the stage for a part of what stage and place share: within what both need, on a phone no strip that is too high. */
export function stageLength(arrangement: Arrangement, length: number, share: number): number {
  const { stage, place } = least[arrangement];
  // Before anything is laid out, both have nothing.
  if (length < stage) return stage;
  const wanted = Math.round(Math.max(stage, Math.min(share * length, length - place - DIVIDER[arrangement])));
  return arrangement === 'phone' && wanted < STRIP_BELOW ? STRIP : wanted;
}

const KEY = 'hastig-picture-share';

type Shares = Partial<Record<Arrangement, number>>;

/** What was dragged in this browser before. */
export function rememberedShares(): Shares {
  try {
    const kept = (JSON.parse(localStorage.getItem(KEY) ?? '{}') ?? {}) as Record<string, unknown>;
    const valid = Object.entries(kept).filter(([, share]) => typeof share === 'number' && share > 0 && share < 1);
    return Object.fromEntries(valid);
  } catch {
    return {};
  }
}

/** Remembers what was dragged; undefined where it is as it began. */
export function rememberShares(shares: Shares): void {
  localStorage.setItem(KEY, JSON.stringify(shares));
}
