import { findClip, findSource, replaceSound, shownSeconds, soundOf, SURE, trimDecimals } from '@hastig/core';
import { useEffect, useMemo, useState } from 'react';
import { Text } from 'react-native';
import { FormFields } from '../../../form/form-fields';
import { ProjectSheet } from '../../../form/project-sheet';
import { numberField } from '../../../form/specs';
import { useEntries } from '../../../form/use-entries';
import { useSync } from '../../../sound/use-sync';
import { useAppSelector } from '../../../store/hooks';
import { Button } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { EmptySheet } from '../../../ui/empty-sheet';
import { Progress } from '../../../ui/progress';
import type { SoundSheetProps } from '../commands/context';
import { newId } from '../../../store/new-id';

/** Seconds that a recording may begin before or after the picture at most: a day. */
const MOST = 86_400;

/** Another recording in the place of a clip's sound: where it lies is typed, or found by comparing both. */
export function ReplaceSoundSheet({ clipId, onClose }: SoundSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const clip = findClip(project, clipId)!;
  const { of } = clip;
  const own = of.kind === 'source' ? findSource(project, of.id) : undefined;
  const others = project.sources.filter((source) => source.id !== own?.id && soundOf(source));
  // The same ones for as long as the sheet is open: what is tried out is what is kept.
  const ids = useMemo(() => ({ clip: newId(), track: newId() }), []);
  const [chosen, choose] = useState(others[0]?.id ?? '');
  const [comparing, compare] = useState(false);
  // What is compared is what the clip shows as the sheet opens.
  const [heard] = useState(() => (own ? shownSeconds(project, clip, own) : { from: 0, to: 0 }));
  const other = others.find(({ id }) => id === chosen);
  const { found, progress, fault, cancel, again } = useSync(comparing ? own : undefined, heard, other);
  const { specs, texts, values, faults, set } = useEntries(() => ({
    seconds: numberField('Offset (s)', '0', -MOST, MOST, 'time in the recording at the source’s first frame'),
  }));
  const sure = found !== undefined && found.sureness >= SURE;
  useEffect(() => {
    if (found && found.sureness >= SURE) set({ seconds: trimDecimals(found.seconds, 6) });
  }, [found]);
  const seconds = values?.seconds;
  const edit = useMemo(
    () =>
      seconds !== undefined && chosen
        ? (now: typeof project) => replaceSound(now, clipId, chosen, seconds, ids)
        : undefined,
    [seconds, chosen, clipId, ids],
  );
  if (!other)
    return (
      <EmptySheet
        title="Replace sound"
        words="Nothing else in this project has sound. Import another recording first."
        onClose={onClose}
      />
    );
  const words = sure
    ? `Match found: ${Math.round(100 * found.sureness)}%`
    : found
      ? 'No match found. Enter the offset.'
      : '';
  return (
    <ProjectSheet
      title="Replace sound"
      label="replace sound"
      edit={edit}
      onClose={onClose}
      outcome={() => words || 'Keeps the clip’s timing; mutes its own sound'}
    >
      <Choice
        label="Recording"
        value={chosen}
        onChange={(id) => {
          choose(id);
          compare(false);
        }}
        options={others.map(({ id, name }) => ({ value: id, label: name }))}
      />
      <FormFields specs={specs} {...{ texts, faults }} onChange={(name, text) => set({ [name]: text })} />
      {progress === null ? (
        own && !found && !fault ? (
          <Button label="Sync by sound" onPress={() => compare(true)} />
        ) : null
      ) : (
        <>
          <Progress label="Comparing" value={progress} />
          <Button
            label="Cancel"
            onPress={() => {
              cancel();
              compare(false);
            }}
          />
        </>
      )}
      {fault ? (
        <>
          <Text role="alert" className="font-sans text-[14px] text-wrong">
            {fault}
          </Text>
          <Button label="Try again" onPress={again} />
        </>
      ) : null}
    </ProjectSheet>
  );
}
