import { useRouter, type Href } from 'expo-router';
import { useEffect, useMemo, useState, type MouseEvent } from 'react';
import { Pressable, Text, View } from 'react-native';
import { PathOffer } from '../../path/path-offer';
import { Button } from '../../ui/button';
import { Field } from '../../ui/field';
import { Notice } from '../../ui/notice';
import { Page } from '../../ui/page';
import { PageHead } from '../../ui/page-head';
import { handbookPages, searcher, type Found, type HandbookPage } from './pages';

/** Found parts that are shown at most. */
const MOST = 12;
/** Characters of a part that are shown where it was found. */
const EXCERPT = 140;

/** The handbook: its pages, and a search through all of them. */
export function HandbookPlace({ id }: { id?: string }) {
  const router = useRouter();
  const [pages, setPages] = useState<HandbookPage[]>([]);
  const [fault, setFault] = useState<string | null>(null);
  const [words, setWords] = useState('');
  useEffect(() => {
    handbookPages().then(setPages, (error: Error) => setFault(error.message));
  }, []);
  const search = useMemo(() => searcher(pages), [pages]);
  const found = words.trim() === '' ? undefined : search(words).slice(0, MOST);
  const page = pages.find((one) => one.id === id);
  const go = (to: string): void => {
    setWords('');
    router.navigate(`/handbook/${to}` as Href);
  };
  return (
    <View className="flex-1 bg-ink">
      <PageHead title={page ? `Handbook · ${page.title}` : 'Handbook'} />
      {fault === null ? null : <Notice text={fault} onDismiss={() => setFault(null)} />}
      <Page>
        <Field label="Search the handbook" words value={words} onChange={setWords} />
        <View role="navigation" aria-label="Pages" className="flex-row flex-wrap gap-1">
          {pages.map((one) => (
            <Button
              key={one.id}
              label={one.title}
              kind={one.id === id ? 'plain' : 'quiet'}
              onPress={() => go(one.id)}
            />
          ))}
          <Button label="Notices" kind="quiet" onPress={() => router.navigate('/notices' as Href)} />
        </View>
        {found ? (
          <FoundList found={found} onGo={go} />
        ) : page ? (
          <PageText page={page} />
        ) : (
          <Opening onFault={setFault} />
        )}
      </Page>
    </View>
  );
}

function Opening({ onFault }: { onFault(words: string): void }) {
  return (
    <>
      <Text className="font-sans text-[15px] text-quiet">
        The job in the order in which it is done: a page for each place. Everything can be undone, also after the page
        was closed. In a place, ? lists its shortcuts.
      </Text>
      <PathOffer asked onFault={onFault} />
    </>
  );
}

function FoundList({ found, onGo }: { found: readonly Found[]; onGo(id: string): void }) {
  if (found.length === 0)
    return <Text className="font-sans text-[15px] text-quiet">The handbook says nothing of that.</Text>;
  return (
    <View role="list" aria-label="Found" className="gap-2">
      {found.map(({ page, part }) => (
        <View key={`${page.id} ${part.heading}`} role="listitem">
          <Pressable
            role="link"
            onPress={() => onGo(page.id)}
            className="gap-0.5 rounded-lg border border-line bg-raised px-3 py-2 hover:bg-ink"
          >
            <Text className="font-medium text-[15px] text-bone">
              {part.heading === '' ? page.title : `${page.title} · ${part.heading}`}
            </Text>
            <Text numberOfLines={2} className="font-sans text-[13px] text-quiet">
              {part.text.slice(0, EXCERPT)}
            </Text>
          </Pressable>
        </View>
      ))}
    </View>
  );
}

/** A page. Its links lead on inside the program. */
function PageText({ page }: { page: HandbookPage }) {
  const router = useRouter();
  const follow = (event: MouseEvent<HTMLElement>): void => {
    const link = (event.target as HTMLElement).closest('a');
    const to = link?.getAttribute('href');
    if (!to?.startsWith('/handbook/')) return;
    event.preventDefault();
    router.navigate(to as Href);
  };
  return (
    // Links in it are pressed by the keyboard like any.
    <div className="handbook font-sans" onClick={follow}>
      {page.parts.map(({ heading, html }) => (
        <section key={heading}>
          {heading === '' ? null : <h2>{heading}</h2>}
          <div dangerouslySetInnerHTML={{ __html: html }} />
        </section>
      ))}
    </div>
  );
}
