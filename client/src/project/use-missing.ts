import type { MissingMedia } from '@hastig/contract';
import { useEffect, useState } from 'react';
import { api } from '../store/api';
import { useAppSelector } from '../store/hooks';

/** Files of a project that the server has lost. */
export function useMissing(projectId: string): readonly MissingMedia[] {
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
  return missing;
}
