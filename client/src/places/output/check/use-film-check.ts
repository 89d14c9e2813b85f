import type { ProjectDocument } from '@hastig/contract';
import { checkFilm, type Finding } from '@hastig/core';
import { useEffect, useState } from 'react';
import { inPieces } from '../../../ui/in-pieces';

/** What was found of a film; undefined while it is looked through. */
export function useFilmCheck(project: ProjectDocument): readonly Finding[] | undefined {
  const [found, setFound] = useState<{ of: ProjectDocument; findings: readonly Finding[] }>();
  useEffect(() => {
    const stop = new AbortController();
    const findings: Finding[] = [];
    void inPieces(checkFilm(project), (some) => findings.push(...some), { signal: stop.signal }).then(
      (whole) => whole && setFound({ of: project, findings }),
    );
    return () => stop.abort();
  }, [project]);
  return found?.of === project ? found.findings : undefined;
}
