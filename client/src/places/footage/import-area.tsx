import Upload from 'lucide-react-native/icons/upload';
import { useDropzone } from 'react-dropzone';
import { Text, View } from 'react-native';
import { Button } from '../../ui/button';
import { Icon } from '../../ui/icon';

interface ImportAreaProps {
  onFiles(files: File[]): void;
  /** Stands beside the button that opens the picker. */
  beside: React.ReactNode;
  children: React.ReactNode;
}

/** Takes files from the picker, or dropped anywhere on the page. */
export function ImportArea({ onFiles, beside, children }: ImportAreaProps) {
  // No filter by type: a refused file should be told why, not be silently greyed out.
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: true,
    onDrop: onFiles,
  });
  return (
    <div
      {...getRootProps({
        style: { display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0, position: 'relative' },
      })}
    >
      <input {...getInputProps({ 'aria-label': 'Files to import', tabIndex: -1 })} />
      <View className="flex-row justify-center gap-2 border-b border-line bg-ink px-4 py-3">
        <Button label="Import clips" icon={Upload} kind="primary" onPress={open} />
        {beside}
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
