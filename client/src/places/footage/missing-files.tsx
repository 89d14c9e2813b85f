import type { MissingMedia } from '@hastig/contract';
import { Text, View } from 'react-native';
import { useMissing } from '../../project/use-missing';
import { findMissing } from '../../store/find-missing';
import { useAppDispatch } from '../../store/hooks';
import { Button } from '../../ui/button';
import { useFilePicker } from '../../ui/use-file-picker';

/** Files of the project that the server has lost, each with the way to bring it back. */
export function MissingFiles({ projectId }: { projectId: string }) {
  const missing = useMissing(projectId);
  if (missing.length === 0) return null;
  return (
    <View role="alert" className="gap-2 rounded-xl border border-wrong bg-raised p-3">
      <Text className="font-sans text-[14px] text-bone">
        {`${missing.length === 1 ? 'A file is' : `${missing.length} files are`} missing on the server: choose ${missing.length === 1 ? 'it' : 'them'} again from where ${missing.length === 1 ? 'it' : 'they'} came. Nothing of the edit is lost.`}
      </Text>
      <View role="list" aria-label="Missing files" className="gap-1">
        {missing.map((one) => (
          <MissingFile key={one.sha256} missing={one} />
        ))}
      </View>
    </View>
  );
}

function MissingFile({ missing }: { missing: MissingMedia }) {
  const dispatch = useAppDispatch();
  const { name } = missing;
  const { picker, open } = useFilePicker(`File of ${name}`, '', (file) => void dispatch(findMissing(missing, file)));
  return (
    <View role="listitem" className="flex-row items-center gap-3">
      <Text numberOfLines={1} className="min-w-0 flex-1 font-sans text-[14px] text-bone">
        {name}
      </Text>
      <Button label={`Find ${name}`} onPress={open} />
      {picker}
    </View>
  );
}
