import { keptText, LONGEST_NAME } from '@hastig/contract';
import { api } from '../store/api';
import { saveAsked } from '../store/autosave';
import { showSaved } from '../store/open-project';
import { useAppDispatch, useAppSelector, useSession } from '../store/hooks';
import { mergeTheirs } from '../store/merge';
import { opened, projectClosed } from '../store/project-slice';
import { noticeSet, toldSet } from '../store/session-slice';
import { Button } from '../ui/button';
import { Notice } from '../ui/notice';

const MINE = ' (my version)';

/** What went wrong, and what to do when the project was changed elsewhere while it was changed here. */
export function ProjectNotices() {
  const dispatch = useAppDispatch();
  const { notice, told } = useSession('notice', 'told');
  const { save, saveFault, theirs, document } = useAppSelector((state) => state.project);
  const keepMine = (): void => {
    if (!document) return;
    api
      .createProject({
        document: { ...document, name: `${keptText(document.name, LONGEST_NAME - MINE.length)}${MINE}` },
      })
      .then(
        ({ id }) => {
          dispatch(projectClosed());
          // A fresh page: nothing of the other version stays behind, and no question about leaving is asked any more.
          requestAnimationFrame(() => globalThis.location.replace(`/project/${id}`));
        },
        (error: Error) => dispatch(noticeSet(error.message)),
      );
  };
  return (
    <>
      {save === 'conflict' && theirs ? (
        <Notice text="This project was changed in another tab. What you changed here since is not saved.">
          <Button label="Put both together" onPress={() => dispatch(mergeTheirs())} />
          <Button label="Show the other version" onPress={() => dispatch(opened({ project: theirs }))} />
          <Button label="Keep mine as a project of its own" onPress={keepMine} />
        </Notice>
      ) : null}
      {save === 'refused' && saveFault ? (
        <Notice text={`The server did not take the last change: ${saveFault} Undo it, or go on from what is saved.`}>
          <Button label="Show what is saved" onPress={() => void dispatch(showSaved())} />
        </Notice>
      ) : null}
      {save === 'full' ? (
        <Notice text={`Nothing is saved any more: ${saveFault} What you change is kept in this browser until then.`}>
          <Button label="Save now" onPress={() => dispatch(saveAsked())} />
        </Notice>
      ) : null}
      {told ? <Notice calm text={told} onDismiss={() => dispatch(toldSet(null))} /> : null}
      {notice ? <Notice text={notice} onDismiss={() => dispatch(noticeSet(null))} /> : null}
    </>
  );
}
