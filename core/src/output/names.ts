/** What may stand in a pattern of names, between braces, and what is put there. */
export const nameParts = ['name', 'project', 'range', 'number', 'size', 'rate', 'date'] as const;
export type NamePart = (typeof nameParts)[number];

/** Characters of a file's name at most, apart from its ending. */
const LONGEST = 120;

// Characters that file systems or the browser's storage do not take in names; control characters are none of a name either.
const REFUSED = /[/\\:*?"<>|\u0000-\u001f]/g;

/** Text as it may stand in a file's name. */
const nameable = (text: string): string => text.replace(REFUSED, ' ').replace(/ {2,}/g, ' ').trim();

/** What is wrong with a pattern of names, in words that go on from its label; undefined where nothing is. */
export function patternFault(pattern: string): string | undefined {
  if (pattern.trim() === '') return 'is empty';
  const bare = pattern.replace(/\{([a-z]+)\}/g, (all, part: string) =>
    (nameParts as readonly string[]).includes(part) ? '' : all,
  );
  const unknown = /\{[^}]*\}?/.exec(bare);
  if (unknown) return `has ${unknown[0]}: use ${nameParts.map((part) => `{${part}}`).join(' ')}`;
  if (bare.search(REFUSED) >= 0) return 'must not contain / \\ : * ? " < > |';
  return bare.length > LONGEST ? 'is too long' : undefined;
}

/** The name that a pattern comes to; what is put in loses what names must not contain. Never empty. */
export function nameFrom(pattern: string, parts: Readonly<Record<NamePart, string>>): string {
  const name = pattern.replace(/\{([a-z]+)\}/g, (all, part: string) => parts[part as NamePart] ?? all);
  const short = [...nameable(name)].slice(0, LONGEST).join('').trim();
  // A name of dots leads to a folder.
  return /^\.*$/.test(short) ? 'Render' : short;
}
