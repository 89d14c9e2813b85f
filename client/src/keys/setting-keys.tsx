import type { Keyed, RetimeMap } from '@hastig/contract';
import { easeName, easeNames, eases, momentAt, type EaseName, type KeyTools } from '@hastig/core';
import Diamond from 'lucide-react-native/icons/diamond';
import DiamondMinus from 'lucide-react-native/icons/diamond-minus';
import SkipBack from 'lucide-react-native/icons/chevron-left';
import SkipForward from 'lucide-react-native/icons/chevron-right';
import { Text, View } from 'react-native';
import { Button, IconButton } from '../ui/button';
import { Checks } from '../ui/checks';
import { Choice } from '../ui/choice';

interface SettingKeysProps<S, N extends string> {
  /** What is done with keys of such settings. */
  tools: KeyTools<S, N>;
  /** What may change over time, each of one number or of some that change together. */
  groups: readonly { value: string; label: string; names: readonly N[] }[];
  settings: S;
  map: RetimeMap;
  /** Output time of the clip's map at which the playhead is. */
  at: number;
  /** The playhead is outside the clip; `at` is the frame of it that is nearest. */
  outside: boolean;
  onChange(settings: S): void;
  /** Puts the playhead at an output time of the map. */
  onGo(output: number): void;
}

/** Which of a clip's settings change over time, and their keys. */
export function SettingKeys<S extends { keys?: Partial<Record<N, Keyed>> }, N extends string>(
  props: SettingKeysProps<S, N>,
) {
  const { tools, groups, settings, map, at, outside, onChange, onGo } = props;
  const moment = momentAt(map, at);
  const by = tools.countedBy(settings);
  const chosen = groups.filter(({ names }) => names.some((name) => settings.keys?.[name]));
  const outputs = tools.keyOutputs(settings, map);
  const before = outputs.findLast((output) => output < at - 0.5);
  const after = outputs.find((output) => output > at + 0.5);
  const here = tools.hasKeyAt(settings, moment);
  const ease = easeName(tools.easeAt(settings, moment) ?? eases['ease-in-out']);
  return (
    <View role="group" aria-label="Keys" className="gap-3">
      <Checks
        label="Animate"
        values={chosen.map(({ value }) => value)}
        onChange={(values) => {
          const names = groups.filter(({ value }) => values.includes(value)).flatMap((one) => one.names);
          onChange(tools.withKeyed(settings, names, by ?? 'source', moment));
        }}
        options={groups}
      />
      {by ? (
        <>
          <View className="flex-row items-center gap-1">
            <IconButton
              label="Previous key"
              icon={SkipBack}
              disabled={before === undefined}
              onPress={() => onGo(before!)}
            />
            <View className="flex-1">
              <Button
                label={here ? 'Remove key' : 'Add key'}
                icon={here ? DiamondMinus : Diamond}
                onPress={() =>
                  onChange(here ? tools.withoutKeysAt(settings, moment) : tools.withKeysAt(settings, moment))
                }
              />
            </View>
            <IconButton
              label="Next key"
              icon={SkipForward}
              disabled={after === undefined}
              onPress={() => onGo(after!)}
            />
          </View>
          {outside ? (
            <Text className="font-sans text-[13px] text-quiet">
              The playhead is outside this clip. Keys go to its nearest frame.
            </Text>
          ) : null}
          {here && after !== undefined ? (
            <Choice
              label="Ease to the next key"
              value={ease ?? ''}
              onChange={(name) => onChange(tools.withKeysEased(settings, moment, eases[name as EaseName]))}
              options={easeNames.map((value) => ({ value, label: value }))}
            />
          ) : null}
          <Choice
            label="Keys follow"
            value={by}
            onChange={(value) => onChange(tools.recounted(settings, value as Keyed['by'], map))}
            options={[
              { value: 'source', label: 'Content' },
              { value: 'output', label: 'Clip time' },
            ]}
          />
        </>
      ) : null}
    </View>
  );
}
