import { easeNames, eases, type Ease } from '@hastig/core';
import { Pressable, Text, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { Choice } from '../ui/choice';
import { Field } from '../ui/field';
import { colour } from '../ui/palette';
import type { Texts } from './specs';

interface EaseEntryProps {
  name: string;
  label: string;
  texts: Texts;
  faults: Readonly<Record<string, string>>;
  frames: number | undefined;
  onChange(name: string, text: string): void;
}

const SIZE = 26;

/** An ease as a small drawing: time to the right, the change upwards. */
function EaseDrawing({ ease, chosen }: { ease: Ease; chosen: boolean }) {
  const [x1, y1, x2, y2] = ease;
  const at = (x: number, y: number): string => `${3 + x * (SIZE - 6)} ${SIZE - 3 - y * (SIZE - 6)}`;
  return (
    <Svg width={SIZE} height={SIZE} aria-hidden>
      <Path
        d={`M ${at(0, 0)} C ${at(x1, y1)} ${at(x2, y2)} ${at(1, 1)}`}
        stroke={colour(chosen ? 'bone' : 'quiet')}
        strokeWidth={2}
        fill="none"
      />
    </Svg>
  );
}

/** The shape of a ramp: the named eases of CSS, each drawn; own handles; or start and end in frames. */
export function EaseEntry({ name, label, texts, faults, frames, onChange }: EaseEntryProps) {
  const shape = texts[name]!;
  const number = (key: string) => Number(texts[`${name}:${key}`]!.replace(',', '.')) || 0;
  const drawn: Record<string, Ease> = {
    ...eases,
    own: [number('x1'), number('y1'), number('x2'), number('y2')],
    frames: [0.5, 0, 0.5, 1],
  };
  const names = [...easeNames, 'own', ...(frames === undefined ? [] : ['frames'])];
  const labels: Record<string, string> = { own: 'custom', frames: 'in frames' };
  const field = (key: string, label: string) => (
    <Field
      key={key}
      label={label}
      value={texts[`${name}:${key}`]!}
      onChange={(text) => onChange(`${name}:${key}`, text)}
      fault={faults[`${name}:${key}`]}
    />
  );
  const even = texts[`${name}:even`] === 'even';
  return (
    <View className="gap-2">
      <View className="gap-1">
        <Text className="font-sans text-[13px] text-quiet">{label}</Text>
        <View
          role="radiogroup"
          aria-label={label}
          className="flex-row flex-wrap gap-1 rounded-lg border border-line bg-ink p-1"
        >
          {names.map((one) => {
            const chosen = one === shape;
            return (
              <Pressable
                key={one}
                role="radio"
                aria-checked={chosen}
                accessibilityLabel={labels[one] ?? one}
                onPress={() => onChange(name, one)}
                className={`min-h-[44px] min-w-[62px] flex-auto items-center justify-center rounded-md px-1 ${chosen ? 'bg-line' : 'hover:bg-raised'}`}
              >
                <EaseDrawing ease={drawn[one]!} chosen={chosen} />
                <Text
                  numberOfLines={1}
                  className={`text-[12px] ${chosen ? 'font-medium text-bone' : 'font-sans text-quiet'}`}
                >
                  {labels[one] ?? one}
                </Text>
              </Pressable>
            );
          })}
        </View>
      </View>
      {shape === 'own' ? (
        <View className="flex-row gap-2">
          {field('x1', 'Handle 1, time')}
          {field('y1', 'Handle 1, value')}
          {field('x2', 'Handle 2, time')}
          {field('y2', 'Handle 2, value')}
        </View>
      ) : null}
      {shape === 'frames' ? (
        <View className="gap-2">
          <Choice
            label="Start and end"
            value={even ? 'even' : 'uneven'}
            onChange={(value) => onChange(`${name}:even`, value)}
            options={[
              { value: 'even', label: 'Symmetric' },
              { value: 'uneven', label: 'Separate' },
            ]}
          />
          <View className="flex-row gap-3">
            {field('start', even ? 'Frames at each end' : 'Frames at the start')}
            {even ? null : field('end', 'Frames at the end')}
          </View>
        </View>
      ) : null}
    </View>
  );
}
