/** Code points of the longest name. */
export const LONGEST_NAME = 200;

/** Most frames that a clip, a gap or a sequence lasts: more than nine days at 120 frames a second. */
export const MOST_FRAMES = 100_000_000;

/** Most positions of a source: frames of its picture, or samples of sound alone; 28 hours at 96 kHz. */
export const MOST_POSITIONS = 10_000_000_000;

/** The format of all text that is kept: characters that every database and file can hold, no NUL and no half of a pair. */
export const TEXT_FORMAT = 'text';

/** Text of a length, in code points. */
export const textSchema = <const Most extends number>(most: Most) =>
  ({ type: 'string', format: TEXT_FORMAT, maxLength: most }) as const;

export const nameSchema = { ...textSchema(LONGEST_NAME), minLength: 1, pattern: '\\S' } as const;
/** Most things of a kind in a project. Far beyond what anybody works with; a file that asks for more is none. */
export const MOST = {
  sources: 10_000,
  groups: 10_000,
  clips: 20_000,
  tracks: 200,
  items: 40_000,
  markers: 50_000,
  versions: 1000,
} as const;

export const idSchema = { type: 'string', pattern: '^[A-Za-z0-9_-]{1,64}$' } as const;
