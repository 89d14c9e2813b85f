import type { SoundFacts, Source } from '@hastig/contract';
import { withSoundTrack } from '@hastig/core';
import { rearrange } from '../store/edit';
import { useAppDispatch } from '../store/hooks';
import { Choice } from '../ui/choice';
import { channelsOf } from './sound-words';

const wordsOf = ({ name, language, channels }: SoundFacts, place: number): string =>
  `${place + 1}: ${name ?? channelsOf(channels)}${language ? `, ${language}` : ''}`;

/** Which of its file's tracks of sound is heard of a source, where there are several. */
export function ChooseSound({ source }: { source: Source }) {
  const dispatch = useAppDispatch();
  const { sounds } = source.facts;
  if (!sounds) return null;
  return (
    <Choice
      label="Sound track"
      value={String(source.soundTrack ?? 0)}
      onChange={(track) => {
        if (Number(track) === (source.soundTrack ?? 0)) return;
        const label = `hear track ${Number(track) + 1} of ${source.name}`;
        dispatch(rearrange(label, (project) => withSoundTrack(project, source.id, Number(track))));
      }}
      options={sounds.map((sound, place) => ({ value: String(place), label: wordsOf(sound, place) }))}
    />
  );
}
