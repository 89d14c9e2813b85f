import type { Colours, ColourSpace, Source } from '@hastig/contract';
import { coloursOf, videoColours, withColours } from '@hastig/core';
import { Text, View } from 'react-native';
import { rearrange } from '../store/edit';
import { useAppDispatch } from '../store/hooks';
import { Checks } from '../ui/checks';
import { Choice } from '../ui/choice';
import { colourWords, fileColourWords } from './colour-words';

const FROM_FILE = 'file';
type Choosable = ColourSpace | typeof FROM_FILE;

/** What a moving picture's values stand for: what its file says, what is assumed where it says nothing, or what is chosen. */
export function ColourOptions({ source }: { source: Source }) {
  const dispatch = useAppDispatch();
  const { video } = source.facts;
  if (!video) return null;
  const { origin } = coloursOf(source);
  const { colours: own } = coloursOf({ facts: source.facts });
  const says = video.colours && video.colours.matrix !== 'unspecified';
  const choose = (colours: Colours | undefined): void =>
    void dispatch(rearrange(`set the colours of ${source.name}`, (now) => withColours(now, source.id, colours)));
  const chosen = source.colours;
  const options: { value: Choosable; label: string }[] = [
    {
      value: FROM_FILE,
      label: own
        ? `Assumed: ${colourWords(own.space)}`
        : `From file${says ? `: ${fileColourWords(video.colours!.matrix)}` : ''}`,
    },
    ...(['bt709', 'bt601-625', 'bt601-525'] as const).map((space) => ({ value: space, label: colourWords(space) })),
  ];
  const pick = (value: Choosable): void => {
    if (value === (chosen?.space ?? FROM_FILE)) return;
    choose(
      value === FROM_FILE
        ? undefined
        : { space: value, fullRange: chosen?.fullRange ?? video.colours?.fullRange ?? false },
    );
  };
  return (
    <View className="gap-2">
      <Choice label="Colours" value={chosen?.space ?? FROM_FILE} onChange={pick} options={options} />
      {chosen ? (
        <Checks
          label="Range"
          options={[{ value: 'full', label: 'Full range (0–255)' }]}
          values={chosen.fullRange ? ['full'] : []}
          onChange={(values) => choose({ ...chosen, fullRange: values.length > 0 })}
        />
      ) : null}
      {origin === 'assumed' ? (
        <Text className="font-sans text-[13px] text-quiet">
          {`The file doesn’t say what its colours are. Up to 576 lines they are taken for BT.601, above for BT.709; files made here say ${videoColours(own!).matrix === 'bt709' ? 'BT.709' : 'BT.601'}.`}
        </Text>
      ) : null}
    </View>
  );
}
