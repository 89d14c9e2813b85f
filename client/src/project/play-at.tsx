import type { Source } from '@hastig/contract';
import { fileCountOf, fileRate, formatRate, kindOf, rateKey, sameRate, standardRates, withReadAs } from '@hastig/core';
import { rearrange } from '../store/edit';
import { useAppDispatch } from '../store/hooks';
import { Choice } from '../ui/choice';

/** The rate at which a source's frames are taken: the file's own, or another, its sound going along. */
export function PlayAt({ source }: { source: Source }) {
  const dispatch = useAppDispatch();
  const kind = kindOf(source.facts);
  if (kind === 'still' || kind === 'sound') return null;
  const own = fileCountOf(source).rate;
  const rates = [own, ...standardRates.filter((rate) => !sameRate(rate, own))];
  const now = fileRate(source);
  const choose = (key: string): void => {
    const rate = rates.find((one) => rateKey(one) === key);
    if (!rate || sameRate(rate, now)) return;
    const label = `play ${source.name} at ${formatRate(rate)}`;
    dispatch(rearrange(label, (now) => withReadAs(now, source.id, rate)));
  };
  return (
    <Choice
      label="Play frames at"
      value={rateKey(now)}
      onChange={choose}
      options={rates.map((rate) => ({
        value: rateKey(rate),
        label: sameRate(rate, own) && kind === 'video' ? `${formatRate(rate)} (file)` : formatRate(rate),
      }))}
    />
  );
}
