import type { MissingMedia } from '@hastig/contract';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { api } from '../../store/api';
import { findMissing } from '../../store/find-missing';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { Button } from '../../ui/button';
import { useFilePicker } from '../../ui/use-file-picker';

/** Files of the project that the server has lost, each with the way to bring it back. */
export function MissingFiles({ projectId }: { projectId: string }) {
  // An upload that is done may have been one of them; a source that was replaced or removed is missing no more.
  const uploads = useAppSelector((state) => state.uploads.length);
  const sources = useAppSelector((state) => state.project.document?.sources);
  const [missing, setMissing] = useState<readonly MissingMedia[]>([]);
  useEffect(() => {
    let open = true;
    // Without an answer there is nothing to tell; whoever needs the files is told by what fails.
    api.listMissing(projectId).then(
      (found) => open && setMissing(found),
      () => undefined,
    );
    return () => {
      open = false;
    };
  }, [projectId, uploads, sources]);
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
