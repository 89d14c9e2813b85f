import { EdlUnreadable, EdlUnwritable, OtioUnreadable, readEdl, readOtio, writeEdl, writeOtio } from '@hastig/core';
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
import { newId } from '../../store/new-id';

/** Project files in open formats, out and in. */
export function Interchange() {
  const dispatch = useAppDispatch();
  const { id, document } = useAppSelector((state) => state.project);
  const [message, setMessage] = useState<{ text: string; bad: boolean } | null>(null);

  const write = (): void => {
    if (!document) return;
    const { json, curves, greatestError } = writeOtio(document, mediaAddress);
    saveText(`${document.name}.otio`, 'application/json', JSON.stringify(json, undefined, 2));
    const error = (Math.round(greatestError * 1000) / 1000).toString();
    setMessage({
      bad: false,
      text:
        curves === 0
          ? 'Every timing is linear, so the file is exact.'
          : `${curves} ${curves === 1 ? 'curve is' : 'curves are'} approximated by straight pieces for other programs, within ${error} source frames. Hastig reads the exact curves back.`,
    });
  };

  const writeList = (): void => {
    if (!document) return;
    try {
      const { text, events, greatestError, notes } = writeEdl(document);
      saveText(`${document.name}.edl`, 'text/plain', text);
      const many = `${events} ${events === 1 ? 'event' : 'events'}`;
      const error = (Math.round(greatestError * 100) / 100).toString();
      const told = greatestError < 0.005 ? 'exact to the frame' : `within ${error} source frames`;
      setMessage({ bad: notes.length > 0, text: [`${many}, ${told}.`, ...notes.slice(0, 6)].join(' ') });
    } catch (error) {
      if (!(error instanceof EdlUnwritable)) throw error;
      setMessage({ bad: true, text: error.message });
    }
  };

  const read = async (file: File, isList: boolean): Promise<void> => {
    if (!document) return;
    try {
      const text = await file.text();
      const { project, notes } = isList ? readEdl(text, document, newId) : readOtio(JSON.parse(text), document, newId);
      if (!dispatch(rearrange(`import ${file.name}`, () => project))) return;
      const omitted = notes.length > 0 ? ` ${notes.slice(0, 6).join(' ')}` : '';
      setMessage({
        bad: notes.length > 0,
        text: `Imported ${file.name}. Undo restores the previous timeline.${omitted}`,
      });
    } catch (error) {
      if (error instanceof SyntaxError)
        setMessage({ bad: true, text: `${file.name} isn’t an OpenTimelineIO file. Choose a file ending in .otio.` });
      else if (error instanceof OtioUnreadable || error instanceof EdlUnreadable)
        setMessage({ bad: true, text: `${file.name}: ${error.message}` });
      else throw error;
    }
  };

  const picker = useFilePicker('OpenTimelineIO file', '.otio,application/json', (file) => void read(file, false));
  const listPicker = useFilePicker('EDL file', '.edl,text/plain', (file) => void read(file, true));
  if (!id || !document) return null;

  return (
    <View role="group" aria-label="Project files" className="gap-2 border-t border-line pt-4">
      <Text role="heading" aria-level={2} className="font-medium text-[16px] text-bone">
        Project files
      </Text>
      <View className="flex-row flex-wrap gap-2">
        <Button label="Project" icon={Download} onPress={() => saveFrom(projectFileAddress(id))} />
        <Button label="Project with media" icon={Download} onPress={() => saveFrom(projectArchiveAddress(id))} />
        <Button label="OpenTimelineIO" icon={Download} onPress={write} />
        <Button label="EDL" icon={Download} onPress={writeList} />
        <Button label="Import OpenTimelineIO" icon={Upload} onPress={() => picker.open()} />
        <Button label="Import EDL" icon={Upload} onPress={() => listPicker.open()} />
      </View>
      {picker.picker}
      {listPicker.picker}
      {message ? (
        <Text
          role={message.bad ? 'alert' : 'status'}
          className={`font-sans text-[14px] ${message.bad ? 'text-wrong' : 'text-quiet'}`}
        >
          {message.text}
        </Text>
      ) : (
        <Text className="font-sans text-[13px] text-quiet">
          Import a project on the projects page. The file without media works where its media are already stored.
        </Text>
      )}
    </View>
  );
}
