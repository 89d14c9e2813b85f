/** Characters of the longest name. */
export const LONGEST_NAME = 200;

/** Most frames that a clip, a gap or a sequence lasts: more than nine days at 120 frames a second. */
export const MOST_FRAMES = 100_000_000;

export const nameSchema = { type: 'string', minLength: 1, maxLength: LONGEST_NAME, pattern: '\\S' } as const;
export const idSchema = { type: 'string', pattern: '^[A-Za-z0-9_-]{1,64}$' } as const;
