import type { MissingMedia, ProjectDocument } from '@hastig/contract';
import { checkFilm, type Finding } from '@hastig/core';
import { useEffect, useState } from 'react';
import { api } from '../../../store/api';
import { inPieces } from '../../../ui/in-pieces';

/** What was found of a film; undefined while it is looked through. */
export function useFilmCheck(project: ProjectDocument): readonly Finding[] | undefined {
  const [found, setFound] = useState<{ of: ProjectDocument; findings: readonly Finding[] }>();
  useEffect(() => {
    const stop = new AbortController();
    const findings: Finding[] = [];
    void inPieces(checkFilm(project), (some) => findings.push(...some), stop.signal).then(
      (whole) => whole && setFound({ of: project, findings }),
    );
    return () => stop.abort();
  }, [project]);
  return found?.of === project ? found.findings : undefined;
}

/** Files of a project that the server has lost; none where it can't be asked. */
export function useMissing(projectId: string, sources: ProjectDocument['sources']): readonly MissingMedia[] {
  const [missing, setMissing] = useState<readonly MissingMedia[]>([]);
  useEffect(() => {
    let open = true;
    api.listMissing(projectId).then(
      (found) => open && setMissing(found),
      () => undefined,
    );
    return () => {
      open = false;
    };
  }, [projectId, sources]);
  return missing;
}
