import MiniSearch from 'minisearch';

/** A part of a page: what one heading is about. Its HTML is made when the program is built, of its own handbook. */
interface HandbookPart {
  heading: string;
  html: string;
  text: string;
}

export interface HandbookPage {
  id: string;
  title: string;
  parts: HandbookPart[];
}

let fetched: Promise<HandbookPage[]> | undefined;

/** All pages, fetched once. */
export function handbookPages(): Promise<HandbookPage[]> {
  fetched ??= fetch('/handbook/pages.json').then((answer) => {
    if (!answer.ok) throw new Error('The handbook can’t be read: the server isn’t answering. Try again in a moment.');
    return answer.json() as Promise<HandbookPage[]>;
  });
  // Asked for again where it did not come.
  fetched.catch(() => (fetched = undefined));
  return fetched;
}

/** Where something was found. */
export interface Found {
  page: HandbookPage;
  part: HandbookPart;
}

/** What the handbook says of some words, the best first: beginnings of words and words that are nearly written so are found too. */
export function searcher(pages: readonly HandbookPage[]): (words: string) => Found[] {
  const all = pages.flatMap((page) => page.parts.map((part): Found => ({ page, part })));
  const search = new MiniSearch<{ id: number; title: string; heading: string; text: string }>({
    fields: ['title', 'heading', 'text'],
    searchOptions: { boost: { heading: 4, title: 2 }, prefix: true, fuzzy: 0.25, combineWith: 'AND' },
  });
  search.addAll(all.map(({ page, part }, id) => ({ id, title: page.title, heading: part.heading, text: part.text })));
  return (words) => search.search(words).map(({ id }) => all[id as number]!);
}

/** The page about a place, by the last piece of its address. */
const pageOfPlace: Readonly<Record<string, string>> = {
  source: '1-footage',
  timeline: '2-timeline',
  group: '2-timeline',
  beats: '3-beats',
  pace: '4-pace',
  picture: '5-picture',
  sound: '6-sound',
  output: '8-output',
  compare: '7-compare',
};

/** The address of the page about the place at an address; of all pages where it is none of a project. */
export function handbookAddress(path: string): string {
  const named = path.split('/').findLast((piece) => pageOfPlace[piece] !== undefined);
  const id = named ? pageOfPlace[named] : /^\/project\/[^/]+$/.test(path) ? '1-footage' : undefined;
  return id ? `/handbook/${id}` : '/handbook';
}
