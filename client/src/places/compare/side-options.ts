import type { ProjectDocument } from '@hastig/contract';
import {
  contentOf,
  hasOwnTime,
  hasPicture,
  formatFacts,
  liveVersionOf,
  madeWays,
  versionsIn,
  type MadeInWay,
  type Side,
  type VersionTarget,
} from '@hastig/core';
import { readRender, type StoredRender } from '@hastig/engine';
import { api } from '../../store/api';
import { fileLocated } from '../../store/compare-slice';
import { noticeSet } from '../../store/session-slice';
import type { AppThunk } from '../../store/store';

/** What a side can be chosen from. */
interface SideOption {
  value: string;
  label: string;
  side: Side;
}

const madeNames: Record<MadeInWay, string> = {
  single: 'Held',
  blend: 'Blended',
  flow: 'Compensated',
  open: 'All frames averaged',
};

/** What two of can be compared without anything being fetched: versions, the footage, and ways of making pictures. */
export function sideOptions(project: ProjectDocument, target: VersionTarget): SideOption[] {
  const liveVersion = liveVersionOf(project, target);
  const versions = versionsIn(project, target);
  const live = versions.find(({ id }) => id === liveVersion);
  return [
    { value: 'now', label: live?.name ?? 'As it is now', side: { is: 'now' } },
    ...versions
      .filter((one) => one !== live)
      .map(({ id, name }): SideOption => ({ value: `version ${id}`, label: name, side: { is: 'version', id } })),
    ...(hasOwnTime(project, target)
      ? [{ value: 'source', label: 'Footage at 100%', side: { is: 'source' } } as const]
      : []),
    ...madeWays.map((way): SideOption => ({ value: `made ${way}`, label: madeNames[way], side: { is: 'made', way } })),
  ];
}

/** Rendered films that can be seen beside what they came of. */
export const comparableRenders = (renders: readonly StoredRender[]): StoredRender[] =>
  renders.filter(({ details }) => details && hasPicture(details.form.format) && formatFacts[details.form.format].kind === 'film'); // prettier-ignore

/** A rendered film as a side; the browser's storage is asked for it. */
export function renderSide({ name, details }: StoredRender): AppThunk<Promise<Side | undefined>> {
  return async (dispatch) => {
    if (!details) return undefined;
    const sourceId = `rendered ${name}`;
    try {
      dispatch(fileLocated({ sourceId, location: { file: await readRender(name) } }));
    } catch (error) {
      dispatch(noticeSet(`${name} can’t be opened: ${(error as Error).message}`));
      return undefined;
    }
    const { rate, frames, width, height } = details;
    return { is: 'file', file: { sourceId, rate, frames, width, height } };
  };
}

/** What something was at a moment of the project's history; says so where it was not there, or can't be fetched. */
export function earlierContent(
  revision: number,
  target: VersionTarget,
): AppThunk<Promise<ReturnType<typeof contentOf>>> {
  return async (dispatch, getState) => {
    const { id } = getState().project;
    if (!id) return undefined;
    try {
      const content = contentOf((await api.getRevision(id, revision)).document, target);
      if (!content) dispatch(noticeSet('It wasn’t in the project then.'));
      return content;
    } catch (error) {
      dispatch(noticeSet((error as Error).message));
      return undefined;
    }
  };
}
