import { LONGEST_NAME, type OutputForm, type Preset } from '@hastig/contract';
import { builtInPresets, presetsOf, removePreset, savePreset } from '@hastig/core';
import Save from 'lucide-react-native/icons/bookmark-plus';
import Trash from 'lucide-react-native/icons/trash';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { Button } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { newId } from '../../store/new-id';

interface PresetRowProps {
  /** The form as it stands; undefined while an entry is wrong. */
  form: OutputForm | undefined;
  /** Why a preset can't be taken, in words. */
  whyNot(preset: Preset): string | undefined;
  onChoose(form: OutputForm): void;
}

/** A form as words that are the same where it is. */
const keyOf = (form: OutputForm): string =>
  JSON.stringify(Object.fromEntries(Object.entries(form).sort(([a], [b]) => (a < b ? -1 : 1))));

/** Forms by what files are for: those that are always there, and those that were saved with the project. */
export function PresetRow({ form, whyNot, onChoose }: PresetRowProps) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document)!;
  const [naming, setNaming] = useState<string | null>(null);
  const all = presetsOf(project);
  const key = form && keyOf(form);
  const chosen = all.find((preset) => keyOf(preset.form) === key);
  const own = chosen && project.presets?.some(({ id }) => id === chosen.id) ? chosen : undefined;
  const taken = builtInPresets.some(({ name }) => name === naming?.trim());
  const long = naming !== null && [...naming.trim()].length > LONGEST_NAME;
  const usable = naming !== null && naming.trim() !== '' && !taken && !long;
  const save = (): void => {
    if (!form || !usable) return;
    void dispatch(rearrange('save a preset', (state) => savePreset(state, naming.trim(), form, newId())));
    setNaming(null);
  };
  return (
    <View className="gap-2">
      <Choice
        label="Preset"
        value={chosen?.id ?? ''}
        options={all.map(({ id, name }) => ({ value: id, label: name }))}
        whyNot={(id) => whyNot(all.find((preset) => preset.id === id)!)}
        onChange={(id) => onChoose(all.find((preset) => preset.id === id)!.form)}
      />
      {naming === null ? (
        <View className="flex-row flex-wrap gap-2">
          {chosen ? null : <Button label="Save preset" icon={Save} disabled={!form} onPress={() => setNaming('')} />}
          {own ? (
            <Button
              label={`Remove preset ${own.name}`}
              icon={Trash}
              onPress={() => void dispatch(rearrange('remove a preset', (state) => removePreset(state, own.id)))}
            />
          ) : null}
        </View>
      ) : (
        <View className="gap-2">
          <Field
            label="Preset name"
            words
            atOnce
            value={naming}
            onChange={setNaming}
            onSubmit={save}
            fault={taken ? 'is a preset that is always there' : long ? 'is too long' : undefined}
          />
          <View className="flex-row gap-2">
            <Button label="Save" kind="primary" disabled={!usable || !form} onPress={save} />
            <Button label="Don’t save" onPress={() => setNaming(null)} />
          </View>
          <Text className="font-sans text-[13px] text-quiet">
            Saved with the project; one of the same name is replaced.
          </Text>
        </View>
      )}
    </View>
  );
}
