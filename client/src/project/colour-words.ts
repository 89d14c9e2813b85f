import type { ColourSpace } from '@hastig/contract';

const spaces: Record<ColourSpace, string> = {
  bt709: 'BT.709',
  'bt601-625': 'BT.601 (625 lines)',
  'bt601-525': 'BT.601 (525 lines)',
};

/** A colour space by its standard. */
export const colourWords = (space: ColourSpace): string => spaces[space];

/** Matrices by their names in WebCodecs. */
const matrices: Record<string, string> = {
  bt709: 'BT.709',
  bt470bg: 'BT.601 (625 lines)',
  smpte170m: 'BT.601 (525 lines)',
  'bt2020-ncl': 'BT.2020',
  rgb: 'RGB',
};

/** What a file says of its colours, by their matrix. */
export const fileColourWords = (matrix: string): string => matrices[matrix] ?? matrix;
