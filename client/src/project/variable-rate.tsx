import type { Counting, RateFit, Source } from '@hastig/contract';
import { countingOf, formatRate, rateKey, withCounting } from '@hastig/core';
import { Text, View } from 'react-native';
import { fitWords } from './fit-words';
import { rearrange } from '../store/edit';
import { useAppDispatch } from '../store/hooks';
import { Choice } from '../ui/choice';

/** Rates offered: what fits worse is no choice anybody would make. */
const MOST_RATES = 5;
const BY_FRAME = 'frame';

/** Rates to choose from: those that fit best, and the one that is chosen. */
function offered(fits: readonly RateFit[], { rate }: Counting): RateFit[] {
  return fits.filter((fit, place) => place < MOST_RATES || (rate && rateKey(fit.rate) === rateKey(rate)));
}

/** How the frames of a file that come at irregular times are counted: at an even rate along its time, or frame by frame. */
export function VariableRate({ source }: { source: Source }) {
  const dispatch = useAppDispatch();
  const varying = source.facts.video?.varying;
  if (!varying) return null;
  const counting = countingOf(source);
  const fits = offered(varying.fits, counting);
  const now = counting.rate ? rateKey(counting.rate) : BY_FRAME;
  const chosen = fits.find(({ rate }) => rateKey(rate) === now);
  const choose = (key: string): void => {
    if (key === now) return;
    const fit = fits.find(({ rate }) => rateKey(rate) === key);
    const wanted: Counting = fit ? { by: 'time', rate: fit.rate } : { by: 'frame' };
    const label = fit ? `play ${source.name} at ${formatRate(fit.rate)}` : `play ${source.name} frame by frame`;
    dispatch(rearrange(label, (project) => withCounting(project, source.id, wanted)));
  };
  return (
    <View className="gap-2">
      <Choice
        label="Variable frame rate, play at"
        value={now}
        onChange={choose}
        options={[
          ...fits.map(({ rate }) => ({ value: rateKey(rate), label: `${formatRate(rate)} fps` })),
          { value: BY_FRAME, label: 'Frame by frame' },
        ]}
      />
      <Text className="font-sans text-[13px] text-quiet">
        {chosen
          ? `In sync with the sound. ${fitWords(chosen)}.`
          : 'Each frame once: motion is uneven and sound drifts out of sync.'}
      </Text>
    </View>
  );
}
