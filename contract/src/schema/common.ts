export const nameSchema = { type: 'string', minLength: 1, maxLength: 200, pattern: '\\S' } as const;
export const idSchema = { type: 'string', pattern: '^[A-Za-z0-9_-]{1,64}$' } as const;
