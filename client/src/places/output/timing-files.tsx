import {
  clipProgram,
  containerFrames,
  cueSheetCsv,
  EditRefused,
  filmFrames,
  findClip,
  FrameMapCsv,
  keysCsv,
  KeysUnreadable,
  readKeys,
  soundCues,
  TimingJson,
  type CueLoudness,
} from '@hastig/core';
import type { ProjectDocument } from '@hastig/contract';
import { startLoudness } from '@hastig/engine';
import Download from 'lucide-react-native/icons/download';
import Upload from 'lucide-react-native/icons/upload';
import { useEffect, useRef, useState } from 'react';
import { Text, View } from 'react-native';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { sourceLocations } from '../../store/selectors';
import { Button } from '../../ui/button';
import { inPieces } from '../../ui/in-pieces';
import { Progress } from '../../ui/progress';
import { saveText } from '../../ui/save-file';
import { useFilePicker } from '../../ui/use-file-picker';

interface Message {
  text: string;
  bad: boolean;
}

interface Writer {
  add(frame: ReturnType<typeof filmFrames> extends Generator<infer F> ? F : never): void;
  readonly text: string;
}

/** The film's timing for other programs and people, as tables: by frame, by key, and of its sounds. */
export function TimingFiles() {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const sources = useAppSelector(sourceLocations);
  const [message, setMessage] = useState<Message | null>(null);
  const [share, setShare] = useState<number | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => stop.current?.abort(), []);
  const read = async (file: File): Promise<void> => {
    if (!document) return;
    try {
      const { project, clips, notes } = readKeys(await file.text(), document);
      if (clips > 0 && !dispatch(rearrange(`import ${file.name}`, () => project))) return;
      const many = clips === 0 ? 'No key was changed.' : `${clips} ${clips === 1 ? 'clip' : 'clips'} retimed.`;
      setMessage({ bad: notes.length > 0, text: [many, ...notes.slice(0, 6)].join(' ') });
    } catch (error) {
      if (!(error instanceof KeysUnreadable || error instanceof EditRefused)) throw error;
      setMessage({ bad: true, text: `${file.name}: ${error.message}` });
    }
  };
  const picker = useFilePicker('Keys file', '.csv,text/csv', (file) => void read(file));
  if (!document) return null;

  const begin = async (work: (signal: AbortSignal) => Promise<Message | undefined>): Promise<void> => {
    stop.current?.abort();
    const mine = (stop.current = new AbortController());
    setMessage(null);
    setShare(0);
    const told = await work(mine.signal).catch((error: Error): Message => ({ bad: true, text: error.message }));
    if (stop.current !== mine) return;
    stop.current = null;
    setShare(null);
    setMessage(told ?? null);
  };

  const frames = (writer: Writer, ending: string, type: string) =>
    begin(async (signal) => {
      const total = containerFrames(document, document.sequence);
      const whole = await inPieces(filmFrames(document), (frame) => writer.add(frame), {
        signal,
        onPiece: (done) => setShare(done / total),
      });
      if (!whole) return undefined;
      saveText(`${document.name}${ending}`, type, writer.text);
      return { bad: false, text: `${total} frames.` };
    });

  const cues = () =>
    begin(async (signal) => {
      const found = await loudnessOfCues(document, sources, setShare, signal);
      if (!found) return undefined;
      saveText(`${document.name} cues.csv`, 'text/csv', cueSheetCsv(document, found));
      return { bad: false, text: `${soundCues(document).length} cues.` };
    });

  return (
    <View role="group" aria-label="Timing files" className="gap-2 border-t border-line pt-4">
      <Text role="heading" aria-level={2} className="font-medium text-[16px] text-bone">
        Timing files
      </Text>
      <View className="flex-row flex-wrap gap-2">
        <Button
          label="Frame map"
          icon={Download}
          onPress={() => void frames(new FrameMapCsv(document), ' frames.csv', 'text/csv')}
        />
        <Button
          label="Timing JSON"
          icon={Download}
          onPress={() => void frames(new TimingJson(document), ' timing.json', 'application/json')}
        />
        <Button
          label="Keys"
          icon={Download}
          onPress={() => saveText(`${document.name} keys.csv`, 'text/csv', keysCsv(document))}
        />
        <Button label="Cue sheet" icon={Download} onPress={() => void cues()} />
        <Button label="Import keys" icon={Upload} onPress={() => picker.open()} />
      </View>
      {picker.picker}
      {share === null ? null : (
        <View className="gap-2">
          <Progress label="Timing file" value={share} />
          <View className="flex-row">
            <Button
              label="Cancel timing file"
              onPress={() => {
                stop.current?.abort();
                stop.current = null;
                setShare(null);
              }}
            />
          </View>
        </View>
      )}
      <Text
        role={message?.bad ? 'alert' : 'status'}
        className={`font-sans text-[14px] ${message?.bad ? 'text-wrong' : 'text-quiet'}`}
      >
        {message?.text ??
          'Source frame and speed of every frame as CSV or JSON, speed keys as CSV, and a cue sheet with loudness. Keys can be edited in a spreadsheet and imported again.'}
      </Text>
    </View>
  );
}

/** How loud each cue is by itself; undefined where it was called off. */
async function loudnessOfCues(
  document: ProjectDocument,
  sources: Parameters<typeof startLoudness>[1],
  onShare: (share: number) => void,
  signal: AbortSignal,
): Promise<Map<string, CueLoudness> | undefined> {
  const found = new Map<string, CueLoudness>();
  const cues = soundCues(document);
  for (const [index, { clipId }] of cues.entries()) {
    const clip = findClip(document, clipId)!;
    const { from, frames } = clip.shown;
    const program = clipProgram(document, clip);
    const span = { from, to: Math.min(program.length, from + frames) };
    const listening = startLoudness(program, sources, (share) => onShare((index + share) / cues.length), { span });
    const aborted = new Promise<undefined>((resolve) =>
      signal.addEventListener('abort', () => resolve(undefined), { once: true }),
    );
    const heard = await Promise.race([listening.result, aborted]);
    if (signal.aborted) {
      listening.cancel();
      return undefined;
    }
    if (heard) found.set(clipId, heard);
  }
  return found;
}
