import { OtioUnreadable, readOtio, writeOtio } from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import Download from 'lucide-react-native/icons/download';
import Upload from 'lucide-react-native/icons/upload';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { mediaAddress, projectArchiveAddress, projectFileAddress } from '../../store/api';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { Button } from '../../ui/button';
import { useFilePicker } from '../../ui/use-file-picker';
import { saveText, saveFrom } from '../../ui/save-file';

/** The project and its timing in open formats, out and in. */
export function Interchange() {
  const dispatch = useAppDispatch();
  const { id, document } = useAppSelector((state) => state.project);
  const [told, setTold] = useState<{ text: string; bad: boolean } | null>(null);

  const write = (): void => {
    if (!document) return;
    const { json, curves, greatestError } = writeOtio(document, mediaAddress);
    saveText(`${document.name}.otio`, 'application/json', JSON.stringify(json, undefined, 2));
    const error = (Math.round(greatestError * 1000) / 1000).toString();
    setTold({
      bad: false,
      text:
        curves === 0
          ? 'Every timing is linear, so the file says all of it.'
          : `${curves} ${curves === 1 ? 'curve is' : 'curves are'} in linear pieces for other programs, at most ${error} source frames off; Hastig reads them back exactly.`,
    });
  };

  const read = async (file: File): Promise<void> => {
    if (!document) return;
    try {
      const json: unknown = JSON.parse(await file.text());
      const { project, notes } = readOtio(json, document, () => `id-${nanoid(12)}`);
      if (!dispatch(rearrange(`bring in ${file.name}`, () => project))) return;
      const left = notes.length > 0 ? ` ${notes.slice(0, 6).join(' ')}` : '';
      setTold({
        bad: notes.length > 0,
        text: `${file.name} is on the timeline; undo brings back what was there.${left}`,
      });
    } catch (error) {
      if (error instanceof SyntaxError)
        setTold({ bad: true, text: `${file.name} is not JSON, so it is no OpenTimelineIO.` });
      else if (error instanceof OtioUnreadable) setTold({ bad: true, text: `${file.name}: ${error.message}` });
      else throw error;
    }
  };

  const picker = useFilePicker('OpenTimelineIO file', '.otio,application/json', (file) => void read(file));
  if (!id || !document) return null;

  return (
    <View role="group" aria-label="Project and timing as files" className="gap-2 border-t border-line pt-4">
      <Text role="heading" aria-level={2} className="font-medium text-[16px] text-bone">
        The project and its timing
      </Text>
      <View className="flex-row flex-wrap gap-2">
        <Button label="Project" icon={Download} onPress={() => saveFrom(projectFileAddress(id))} />
        <Button label="Project with media" icon={Download} onPress={() => saveFrom(projectArchiveAddress(id))} />
        <Button label="OpenTimelineIO" icon={Download} onPress={write} />
        <Button label="Bring in OpenTimelineIO" icon={Upload} onPress={() => picker.open()} />
      </View>
      {picker.picker}
      {told ? (
        <Text
          role={told.bad ? 'alert' : 'status'}
          className={`font-sans text-[14px] ${told.bad ? 'text-wrong' : 'text-quiet'}`}
        >
          {told.text}
        </Text>
      ) : (
        <Text className="font-sans text-[13px] text-quiet">
          A project is brought in on the page of projects: the file alone where its media are here, or with them.
        </Text>
      )}
    </View>
  );
}
