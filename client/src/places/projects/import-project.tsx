import Upload from 'lucide-react-native/icons/upload';
import { useRef, useState } from 'react';
import { Text, View } from 'react-native';
import { api } from '../../store/api';
import { sendFile, type RunningSend } from '../../store/send-file';
import { useFilePicker } from '../../ui/use-file-picker';
import { Button } from '../../ui/button';
import { formatBytes } from '../../ui/format';
import { Progress } from '../../ui/progress';

/** A project from a file: JSON where its media are here already, or the archive that has them with it. */
export function ImportProject({ onMade }: { onMade(id: string): void }) {
  const running = useRef<RunningSend | null>(null);
  const [sent, setSent] = useState<{ name: string; bytes: number; of: number } | null>(null);
  const [fault, setFault] = useState<string | null>(null);

  const take = async (file: File): Promise<void> => {
    setFault(null);
    setSent({ name: file.name, bytes: 0, of: file.size });
    try {
      running.current = sendFile(
        file,
        (bytes) => setSent({ name: file.name, bytes, of: file.size }),
        () => undefined,
      );
      onMade((await api.projectFromUpload(await running.current.done)).id);
    } catch (error) {
      if ((error as Error).message !== 'cancelled') setFault(`${file.name}: ${(error as Error).message}`);
    } finally {
      running.current = null;
      setSent(null);
    }
  };

  const picker = useFilePicker(
    'Project file',
    '.json,.zip,application/json,application/zip',
    (file) => void take(file),
  );
  return (
    <>
      <Button label="Import project" icon={Upload} disabled={sent !== null} onPress={() => picker.open()} />
      {picker.picker}
      {sent ? (
        <View className="w-full gap-1">
          <Text className="font-mono text-[13px] text-quiet">
            {sent.bytes < sent.of
              ? `${sent.name}: ${formatBytes(sent.bytes)} of ${formatBytes(sent.of)}`
              : `${sent.name}: importing…`}
          </Text>
          <Progress label="Project" value={sent.of > 0 ? sent.bytes / sent.of : 0} />
          <Button label="Cancel" kind="quiet" onPress={() => running.current?.cancel()} />
        </View>
      ) : null}
      {fault ? (
        <Text role="alert" className="w-full font-sans text-[14px] text-wrong">
          {fault}
        </Text>
      ) : null}
    </>
  );
}
