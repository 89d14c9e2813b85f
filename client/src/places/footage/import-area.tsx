import Upload from 'lucide-react-native/icons/upload';
import { useDropzone } from 'react-dropzone';
import { Text, View } from 'react-native';
import { CommandButton } from '../../commands/command-button';
import { useCommandKeys } from '../../commands/use-commands';
import { Icon } from '../../ui/icon';
import { footageCommands } from './footage-commands';

interface ImportAreaProps {
  onFiles(files: File[]): void;
  /** There is footage already. */
  some: boolean;
  onTimeline(): void;
  children: React.ReactNode;
}

/** Takes files from the picker, or dropped anywhere on the page. */
export function ImportArea({ onFiles, some, onTimeline, children }: ImportAreaProps) {
  // No filter by type: a refused file should be told why, not be silently greyed out.
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: true,
    onDrop: onFiles,
  });
  const context = { some, choose: open, toTimeline: onTimeline };
  useCommandKeys(footageCommands, context);
  const [choose, timeline] = footageCommands;
  return (
    <div
      {...getRootProps({
        style: { display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0, position: 'relative' },
      })}
    >
      <input {...getInputProps({ 'aria-label': 'Files to import', tabIndex: -1 })} />
      <View className="flex-row justify-center gap-2 border-b border-line bg-ink px-4 py-3">
        <CommandButton command={choose} context={context} words="primary" />
        {some ? <CommandButton command={timeline} context={context} words="plain" /> : null}
      </View>
      {children}
      {isDragActive ? (
        <View className="absolute inset-2 items-center justify-center gap-3 rounded-2xl border-2 border-dashed border-bone bg-ink/90">
          <Icon of={Upload} size={40} />
          <Text className="font-medium text-[18px] text-bone">Drop to import</Text>
        </View>
      ) : null}
    </div>
  );
}
