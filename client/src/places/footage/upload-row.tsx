import X from 'lucide-react-native/icons/x';
import { Text, View } from 'react-native';
import { useAppDispatch } from '../../store/hooks';
import { cancelUpload } from '../../store/upload-file';
import type { Upload } from '../../store/uploads-slice';
import { IconButton } from '../../ui/button';
import { formatBytes } from '../../ui/format';
import { Progress } from '../../ui/progress';

const words: Record<Upload['state'], string> = {
  checking: 'Checking file…',
  sending: '',
  interrupted: 'Connection lost. The upload resumes when the server answers.',
  storing: 'Saving…',
  failed: '',
};

export function UploadRow({ upload }: { upload: Upload }) {
  const dispatch = useAppDispatch();
  const failed = upload.state === 'failed';
  const text = upload.fault ?? (words[upload.state] || `${formatBytes(upload.sent)} of ${formatBytes(upload.bytes)}`);
  return (
    <View
      role="listitem"
      className={`gap-2 rounded-xl border bg-raised p-3 ${failed ? 'border-wrong' : 'border-line'}`}
    >
      <View className="flex-row items-center gap-2">
        <View className="min-w-0 flex-1">
          <Text numberOfLines={1} className="font-medium text-[15px] text-bone">
            {upload.name}
          </Text>
          <Text
            role={failed ? 'alert' : 'status'}
            className={`font-sans text-[13px] ${failed ? 'text-wrong' : 'text-quiet'}`}
          >
            {text}
          </Text>
        </View>
        <IconButton
          label={failed ? `Dismiss ${upload.name}` : `Cancel ${upload.name}`}
          icon={X}
          onPress={() => dispatch(cancelUpload(upload.id))}
        />
      </View>
      {failed ? null : <Progress label={`Upload of ${upload.name}`} value={upload.sent / Math.max(1, upload.bytes)} />}
    </View>
  );
}
