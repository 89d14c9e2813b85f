import { saveAsked } from '../store/autosave';
import { showSaved } from '../store/open-project';
import { useAppDispatch, useAppSelector, useSession } from '../store/hooks';
import { keepMineApart, mergeTheirs } from '../store/merge';
import { opened } from '../store/project-slice';
import { noticeSet, messageSet } from '../store/session-slice';
import { Button } from '../ui/button';
import { Notice } from '../ui/notice';

/** What went wrong, and what to do when the project was changed elsewhere while it was changed here. */
export function ProjectNotices() {
  const dispatch = useAppDispatch();
  const { notice, message } = useSession('notice', 'message');
  const { save, saveFault, theirs } = useAppSelector((state) => state.project);
  const keepMine = async (): Promise<void> => {
    const id = await dispatch(keepMineApart());
    // A fresh page: nothing of the other version stays behind, and no question about leaving is asked any more.
    if (id) requestAnimationFrame(() => globalThis.location.replace(`/project/${id}`));
  };
  return (
    <>
      {save === 'conflict' && theirs ? (
        <Notice text="This project was changed in another tab. Your changes here aren’t saved.">
          <Button label="Merge changes" onPress={() => dispatch(mergeTheirs())} />
          <Button label="Use the other version" onPress={() => dispatch(opened({ project: theirs }))} />
          <Button label="Save mine as a copy" onPress={() => void keepMine()} />
        </Notice>
      ) : null}
      {save === 'refused' && saveFault ? (
        <Notice text={`The last change couldn’t be saved: ${saveFault} Undo it, or reload the saved version.`}>
          <Button label="Reload saved version" onPress={() => void dispatch(showSaved())} />
        </Notice>
      ) : null}
      {save === 'full' ? (
        <Notice text={`Can’t save: ${saveFault} Until then your changes stay in this browser.`}>
          <Button label="Save now" onPress={() => dispatch(saveAsked())} />
        </Notice>
      ) : null}
      {message ? <Notice calm text={message} onDismiss={() => dispatch(messageSet(null))} /> : null}
      {notice ? <Notice text={notice} onDismiss={() => dispatch(noticeSet(null))} /> : null}
    </>
  );
}
