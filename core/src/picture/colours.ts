import type { Colours, ColourSpace, Source } from '@hastig/contract';
import { rateToNumber } from '../time';

/** A colour space in the words of WebCodecs (“Video Color Space”), which are those of ITU-T H.273. */
export interface VideoColours {
  primaries: 'bt709';
  transfer: 'bt709';
  matrix: 'bt709' | 'bt470bg' | 'smpte170m';
  fullRange: boolean;
}

/** ITU-T H.273, table 4: BT.709 is 1, BT.601 of 625 lines 5, of 525 lines 6. */
const matrices: Record<ColourSpace, VideoColours['matrix']> = {
  'bt601-525': 'smpte170m',
  'bt601-625': 'bt470bg',
  bt709: 'bt709',
};

/** Most lines of pictures that are taken for standard definition. */
const STANDARD_LINES = 576;

/**
 * The colour space that pictures are taken to have of which nobody says it (common practice): up to 576 lines BT.601, of 625 lines at
 * 25 or 50 pictures a second and of 525 else; above that BT.709.
 *
 * @param lines as stored, before the picture is turned
 */
export function assumedSpace(lines: number, perSecond: number): ColourSpace {
  if (lines > STANDARD_LINES) return 'bt709';
  return Math.abs(perSecond - 25) < 0.5 || Math.abs(perSecond - 50) < 0.5 ? 'bt601-625' : 'bt601-525';
}

/** Where a source's colours come from. */
type ColourOrigin = 'chosen' | 'assumed' | 'file';

/** The colours of a source, and who says so; null where it is its file, or where that was never looked into. */
export function coloursOf({ facts, colours }: Pick<Source, 'facts' | 'colours'>): {
  colours: Colours | null;
  origin: ColourOrigin;
} {
  if (colours) return { colours, origin: 'chosen' };
  const { video } = facts;
  if (video?.colours?.matrix !== 'unspecified') return { colours: null, origin: 'file' };
  const lines = video.rotation % 180 === 0 ? video.height : video.width;
  const space = assumedSpace(lines, rateToNumber(video.rate));
  return { colours: { space, fullRange: video.colours.fullRange }, origin: 'assumed' };
}

/**
 * Colours in the words of WebCodecs. Whoever shows a picture turns the primaries it names into those of the screen; where nobody says
 * what they are, they are taken for the screen's own and left alone (common practice).
 */
export const videoColours = ({ space, fullRange }: Colours): VideoColours => ({
  ...{ primaries: 'bt709', transfer: 'bt709', matrix: matrices[space] },
  fullRange,
});
