import {
  formatMoment,
  formatRate,
  parseMoment,
  rateKey,
  sameRate,
  standardRates,
  withSequenceRate,
} from '@hastig/core';
import { useState } from 'react';
import { View } from 'react-native';
import { rearrange } from '../../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../../store/hooks';
import { Choice } from '../../../ui/choice';
import { Field } from '../../../ui/field';
import { SheetFrame } from '../../../ui/sheet-frame';
import { TapNumber } from '../../../ui/tap-number';

const sampleRates = ['44100', '48000', '96000'] as const;

/** Rate, size, sound and timecode of the film, and what new clips do when they are retimed. */
export function SequenceSheet({ onClose }: { onClose(): void }) {
  const dispatch = useAppDispatch();
  const { sequence, defaults } = useAppSelector((state) => state.project.document)!;
  const { unit } = useSession('unit');
  const rates = standardRates.some((one) => sameRate(one, sequence.rate))
    ? standardRates
    : [sequence.rate, ...standardRates];
  const [size, setSize] = useState({ width: String(sequence.width), height: String(sequence.height) });
  const faultOf = (text: string): string | undefined => {
    const value = Number(text);
    return Number.isInteger(value) && value >= 16 && value <= 16_384 && value % 2 === 0
      ? undefined
      : 'must be an even number from 16 to 16384';
  };
  const set = (label: string, change: Partial<typeof sequence>): void =>
    void dispatch(rearrange(label, (now) => ({ ...now, sequence: { ...now.sequence, ...change } })));
  const enterSize = (side: 'width' | 'height'): void => {
    if (!faultOf(size[side]) && Number(size[side]) !== sequence[side])
      set('change the frame size', { [side]: Number(size[side]) });
  };
  const enterStart = (text: string): string | undefined => {
    const parsed = parseMoment(text, sequence.rate, unit);
    if (!parsed.ok) return parsed.reason;
    if (parsed.value < 0 || parsed.value > 100_000_000) return 'can’t be negative';
    set('change the start timecode', { startFrame: Math.floor(parsed.value) });
    return undefined;
  };
  const field = (side: 'width' | 'height', label: string) => (
    <Field
      label={label}
      value={size[side]}
      onChange={(text) => setSize({ ...size, [side]: text })}
      fault={faultOf(size[side])}
      onSubmit={() => enterSize(side)}
      onBlur={() => enterSize(side)}
    />
  );
  return (
    <SheetFrame title="Sequence" onClose={onClose}>
      <Choice
        label="Frame rate"
        value={rateKey(sequence.rate)}
        onChange={(key) => {
          const rate = rates.find((one) => rateKey(one) === key);
          if (rate && !sameRate(rate, sequence.rate))
            dispatch(rearrange('change the rate', (now) => withSequenceRate(now, rate)));
        }}
        options={rates.map((rate) => ({ value: rateKey(rate), label: formatRate(rate) }))}
      />
      <View className="flex-row gap-3">
        {field('width', 'Width (pixels)')}
        {field('height', 'Height (pixels)')}
      </View>
      <Choice
        label="Sample rate (Hz)"
        value={String(sequence.sampleRate) as (typeof sampleRates)[number]}
        onChange={(value) => set('change the sample rate', { sampleRate: Number(value) as typeof sequence.sampleRate })}
        options={sampleRates.map((value) => ({ value, label: `${Number(value) / 1000} kHz` }))}
      />
      <View className="flex-row">
        <TapNumber
          label="Start timecode"
          text={formatMoment(sequence.startFrame, sequence.rate, unit)}
          onEnter={enterStart}
        />
      </View>
      <Choice
        label="When a new clip is retimed"
        value={defaults.length}
        onChange={(length) =>
          dispatch(rearrange('choose what retiming does', (now) => ({ ...now, defaults: { ...now.defaults, length } })))
        }
        options={[
          { value: 'ripple', label: 'Ripple' },
          { value: 'slot', label: 'Keep duration' },
        ]}
      />
    </SheetFrame>
  );
}
