import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from '@babel/parser';

const root = join(__dirname, '../..');

interface Term {
  term: string;
  not: string[];
}

/** The table of `docs/words.md`. */
function termsOf(text: string): Term[] {
  const rows = text.split('\n').filter((line) => line.startsWith('| '));
  return rows.slice(2).map((line) => {
    const [term = '', , not = ''] = line
      .split('|')
      .slice(1, -1)
      .map((cell) => cell.trim());
    return { term: term.replaceAll('_', ''), not: not.split(',').map((word) => word.trim()) };
  });
}

function* sourcesIn(folder: string): Generator<string> {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) {
      if (!['node_modules', 'dist'].includes(entry.name)) yield* sourcesIn(path);
    } else if (/\.tsx?$/.test(entry.name) && !/\.(test|d)\.tsx?$/.test(entry.name)) yield path;
  }
}

interface Node {
  type: string;
  [field: string]: unknown;
}

/** What is no text for people, by the node around it: addresses of modules, types, styles, and names of fields. */
const silent = new Set(['ImportDeclaration', 'ExportNamedDeclaration', 'TSLiteralType', 'TSTypeReference']);
const silentAttributes = new Set(['className', 'style', 'd', 'gridArea', 'data-testid']);

/** Every text of a file that may be read by people: sentences and what begins with a capital letter. */
function textsOf(path: string): string[] {
  const texts: string[] = [];
  const visit = (value: unknown): void => {
    if (Array.isArray(value)) return value.forEach(visit);
    if (typeof value !== 'object' || value === null || !('type' in value)) return;
    const node = value as Node;
    if (silent.has(node.type) && 'source' in node && node.source) return;
    if (node.type.startsWith('TS') && node.type.includes('Type')) return;
    if (node.type === 'JSXAttribute' && silentAttributes.has(String((node.name as Node).name))) return;
    if (node.type === 'StringLiteral' || node.type === 'JSXText') texts.push(String(node.value));
    // Words between values are short.
    if (node.type === 'TemplateElement') texts.push(` ${(node.value as { cooked: string }).cooked}`);
    for (const [field, inner] of Object.entries(node)) if (field !== 'loc' && field !== 'extra') visit(inner);
  };
  visit(parse(readFileSync(path, 'utf8'), { sourceType: 'module', plugins: ['typescript', 'jsx'] }).program);
  return texts.filter(
    (text) => /^\s*\p{Lu}|\s\p{L}/u.test(text) && !/^\s*(select|insert|update|alter|create) /.test(text),
  );
}

const folders = [
  'client/app',
  'client/src',
  'core/src',
  'engine/src',
  'probe/src',
  'contract/src',
  'server/src',
  'cli/src',
];
const texts = folders.flatMap((folder) =>
  [...sourcesIn(join(root, folder))].flatMap((path) => textsOf(path).map((text) => ({ path, text }))),
);
// What is described elsewhere is called the same.
for (const path of ['README.md', ...readdirSync(join(root, 'docs')).map((name) => `docs/${name}`)]) {
  if (!path.endsWith('.md') || path === 'docs/words.md') continue;
  texts.push(
    ...readFileSync(join(root, path), 'utf8')
      .split(/\n\n/)
      .map((text) => ({ path: join(root, path), text })),
  );
}
const terms = termsOf(readFileSync(join(root, 'docs/words.md'), 'utf8'));
const whole = (words: string): RegExp => new RegExp(`(?<![\\p{L}-])${words}(?![\\p{L}-])`, 'iu');

it('reads a table and an interface', () => {
  expect(terms.length).toBeGreaterThan(60);
  expect(texts.length).toBeGreaterThan(1000);
});

it.each(terms)('“$term” is what it is called', ({ term }) => {
  expect(texts.some(({ text }) => whole(term).test(text))).toBe(true);
});

it.each(terms.filter(({ not }) => not[0]))('nothing is called $not for “$term”', ({ not }) => {
  const called = not.flatMap((words) => texts.filter(({ text }) => whole(words).test(text)));
  expect(called.map(({ path, text }) => `${path.slice(root.length + 1)}: ${text}`)).toEqual([]);
});
