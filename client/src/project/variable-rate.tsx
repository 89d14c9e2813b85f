import type { Counting, MediaFacts, RateFit, Source } from '@hastig/contract';
import { countingOf, formatRate, laysToNearest, rateKey, withCounting, withFactsAnew } from '@hastig/core';
import { Text, View } from 'react-native';
import { fitWords, varyWords } from './fit-words';
import { useFactsAnew } from './use-facts-anew';
import { rearrange } from '../store/edit';
import { useAppDispatch } from '../store/hooks';
import { Choice } from '../ui/choice';

/** Rates offered: what fits worse is no choice anybody would make. */
const MOST_RATES = 5;
const BY_FRAME = 'frame';

interface Offer {
  value: string;
  label: string;
  counting: Counting;
  fit?: RateFit;
}

const keyOf = ({ by, rate }: Counting): string => (rate ? `${by} ${rateKey(rate)}` : by);

function offerOf(by: 'nearest' | 'time', fit: RateFit): Offer {
  const counting: Counting = { by, rate: fit.rate };
  return { value: keyOf(counting), label: `${formatRate(fit.rate)} fps`, counting, fit };
}

/** What to choose from: the rates that fit best, what is chosen now, and frame by frame. */
function offersOf(now: Counting, facts: MediaFacts): Offer[] {
  const [best, ...others] = facts.video?.varying?.fits ?? [];
  const untouched = ({ repeated, skipped }: RateFit): number => repeated + skipped;
  const fits = [...(best ? [best] : []), ...others.sort((a, b) => untouched(a) - untouched(b))];
  const offers = fits
    .map((fit) => offerOf(fit.within === undefined ? 'time' : 'nearest', fit))
    .filter(({ value }, place) => place < MOST_RATES || value === keyOf(now));
  if (now.rate && !offers.some(({ value }) => value === keyOf(now)))
    offers.push({ value: keyOf(now), label: `${formatRate(now.rate)} fps, as before`, counting: now });
  const rate = facts.video?.constantRate ? `, ${formatRate(facts.video.rate)} fps` : '';
  return [...offers, { value: BY_FRAME, label: `Frame by frame${rate}`, counting: { by: 'frame' } }];
}

function meaningOf({ counting, fit }: Offer, { video }: MediaFacts): string {
  if (counting.by === 'frame' && video?.constantRate) return 'In sync with the sound. Each frame once.';
  if (counting.by === 'frame') return 'Each frame once: motion is uneven and sound drifts out of sync.';
  if (counting.by === 'time' || !fit)
    return `In sync with the sound. ${fit && fit.within === undefined ? `${capital(fitWords(fit))}.` : 'Frames whose times vary may repeat or be skipped.'}`;
  return `In sync with the sound. ${fitSentence(fit)}`;
}

const fitSentence = (fit: RateFit): string =>
  `${capital([varyWords(fit.within!), fitWords(fit)].filter(Boolean).join(', '))}.`;

const capital = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** How the frames of a file that come at irregular times are counted: at an even rate, or frame by frame. */
export function VariableRate({ source }: { source: Source }) {
  const dispatch = useAppDispatch();
  const anew = useFactsAnew(source);
  const facts = anew ?? source.facts;
  if (!source.facts.video?.varying && !anew) return null;
  const counting = countingOf(source);
  const offers = offersOf(counting, facts);
  const now = keyOf(counting);
  const chosen = offers.find(({ value }) => value === now)!;
  const better = anew && (laysToNearest(anew) ? offers[0] : offers.at(-1));
  const choose = (key: string): void => {
    const offer = offers.find(({ value }) => value === key);
    if (!offer || key === now) return;
    const { rate } = offer.counting;
    const label = rate ? `play ${source.name} at ${formatRate(rate)}` : `play ${source.name} frame by frame`;
    dispatch(
      rearrange(label, (project) =>
        withCounting(anew ? withFactsAnew(project, source.id, anew) : project, source.id, offer.counting),
      ),
    );
  };
  return (
    <View className="gap-2">
      <Choice label="Variable frame rate, play at" value={now} onChange={choose} options={offers} />
      <Text className="font-sans text-[13px] text-quiet">{meaningOf(chosen, facts)}</Text>
      {better && better !== chosen ? (
        <Text role="status" className="font-sans text-[13px] text-bone">
          {`Better: ${better.label}. ${better.fit ? fitSentence(better.fit) : 'No frame lost.'}`}
        </Text>
      ) : null}
    </View>
  );
}
