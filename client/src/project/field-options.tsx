import type { Fields, FieldUse, Source } from '@hastig/contract';
import { fieldsOf, formatRate, fileRate, makeRate, withFields } from '@hastig/core';
import ArrowUpDown from 'lucide-react-native/icons/arrow-up-down';
import { Text, View } from 'react-native';
import { rearrange } from '../store/edit';
import { useAppDispatch } from '../store/hooks';
import { Button } from '../ui/button';
import { Choice } from '../ui/choice';

/** How a picture that was taken in fields is shown, and which field comes first; both may change while it plays. */
export function FieldOptions({ source }: { source: Source }) {
  const dispatch = useAppDispatch();
  const { video } = source.facts;
  if (!video) return null;
  const fields = fieldsOf(source);
  const { num, den } = fileRate(source);
  const take = (label: string, wanted: Fields): void =>
    void dispatch(rearrange(label, (now) => withFields(now, source.id, wanted)));
  const other = fields.first === 'top' ? 'bottom' : 'top';
  const options: readonly { value: FieldUse; label: string }[] = [
    { value: 'woven', label: 'Woven' },
    { value: 'first', label: 'First field only' },
    { value: 'both', label: `Both, ${formatRate(makeRate(2 * num, den))} fps` },
  ];
  return (
    <View className="gap-2">
      <Choice
        label="Fields"
        value={fields.use}
        onChange={(use) => use !== fields.use && take(`change the fields of ${source.name}`, { ...fields, use })}
        options={options}
      />
      {fields.use === 'woven' ? (
        <Text className="font-sans text-[13px] text-quiet">
          {(video.scan ?? 'progressive') === 'progressive'
            ? 'The stream is flagged as progressive.'
            : 'Each frame shows two moments at once, so motion looks combed.'}
        </Text>
      ) : (
        <View className="flex-row flex-wrap items-center gap-2">
          <Button
            label={`${other === 'top' ? 'Top' : 'Bottom'} field first`}
            icon={ArrowUpDown}
            onPress={() => take('swap field order', { ...fields, first: other })}
          />
          <Text className="min-w-[180px] flex-1 font-sans text-[13px] text-quiet">
            {`The ${fields.first} field is now first. ${
              fields.use === 'both'
                ? 'Play it: if motion twitches back and forth, swap the order.'
                : 'To check the order, choose both fields and play.'
            }`}
          </Text>
        </View>
      )}
    </View>
  );
}
