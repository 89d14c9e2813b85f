import { handbookAddress, searcher, type HandbookPage } from './pages';

const page = (id: string, title: string, ...parts: [heading: string, text: string][]): HandbookPage => ({
  ...{ id, title },
  parts: parts.map(([heading, text]) => ({ heading, text, html: `<p>${text}</p>` })),
});
const find = searcher([
  page('4-pace', 'Pace', ['', 'The speed of a clip.'], ['Freeze', 'A frame that stands.'], ['Reverse', 'Turn a part.']),
  page('6-sound', 'Sound', ['Pitch', 'A freeze is silent, or sounds on.']),
]);
const headings = (words: string): string[] => find(words).map(({ part }) => part.heading);

it('the handbook finds what a heading is about before what only names it', () => {
  expect(headings('freeze')).toEqual(['Freeze', 'Pitch']);
});

it('the handbook finds beginnings of words, words nearly written so, and all of several', () => {
  expect(headings('rev')).toEqual(['Reverse']);
  expect(headings('frezee')).toContain('Freeze');
  expect(headings('freeze silent')).toEqual(['Pitch']);
  expect(headings('nothing of the kind')).toEqual([]);
});

it('each place leads to its page', () => {
  expect(handbookAddress('/project/a/clip/b/pace')).toBe('/handbook/4-pace');
  expect(handbookAddress('/project/a')).toBe('/handbook/1-footage');
  expect(handbookAddress('/project/a/source/s')).toBe('/handbook/1-footage');
  expect(handbookAddress('/project/a/group/g/beats')).toBe('/handbook/3-beats');
  expect(handbookAddress('/')).toBe('/handbook');
});
