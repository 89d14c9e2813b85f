import { MOST_CONVERTED_HOURS } from '@hastig/contract';
import Convert from 'lucide-react-native/icons/refresh-cw';
import X from 'lucide-react-native/icons/x';
import { Text, View } from 'react-native';
import { useAppDispatch } from '../../store/hooks';
import { cancelUpload, convertFile } from '../../store/upload-file';
import type { Upload } from '../../store/uploads-slice';
import { Button, IconButton } from '../../ui/button';
import { formatBytes } from '../../ui/format';
import { Progress } from '../../ui/progress';

const words: Record<Upload['state'], string> = {
  checking: 'Checking file…',
  sending: '',
  interrupted: 'Connection lost. The upload resumes when the server answers.',
  storing: 'Saving…',
  converting: '',
  failed: '',
};

export function UploadRow({ upload }: { upload: Upload }) {
  const dispatch = useAppDispatch();
  const failed = upload.state === 'failed';
  const share = upload.sent / Math.max(1, upload.bytes);
  const far =
    upload.state === 'converting'
      ? `Converting on the server, ${Math.floor(100 * share)}%. It goes on when this tab is closed.`
      : `${formatBytes(upload.sent)} of ${formatBytes(upload.bytes)}`;
  const text = upload.fault ?? (words[upload.state] || far);
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
      {failed ? null : (
        <Progress
          label={`${upload.state === 'converting' ? 'Conversion' : 'Upload'} of ${upload.name}`}
          value={share}
        />
      )}
      {failed && upload.convertible ? (
        <View className="gap-2">
          <Text className="font-sans text-[13px] text-bone">
            {`The server can convert it: every frame at its own time, in high quality. The original is kept. Up to ${MOST_CONVERTED_HOURS} hours.`}
          </Text>
          <View className="flex-row">
            <Button
              label={`Convert ${upload.name}`}
              icon={Convert}
              onPress={() => void dispatch(convertFile(upload.id))}
            />
          </View>
        </View>
      ) : null}
    </View>
  );
}
