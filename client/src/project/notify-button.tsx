import Notified from 'lucide-react-native/icons/bell-ring';
import Notify from 'lucide-react-native/icons/bell';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { askToNotify } from '../store/notify';
import { notifyChosen } from '../store/render-slice';
import { noticeSet } from '../store/session-slice';
import { IconButton } from '../ui/button';

/** Whether one is told by a notification when renders are done, here and on the server. */
export function NotifyButton() {
  const dispatch = useAppDispatch();
  const notify = useAppSelector((state) => state.render.notify);
  const choose = async (): Promise<void> => {
    if (notify) dispatch(notifyChosen(false));
    else if (await askToNotify()) dispatch(notifyChosen(true));
    else
      dispatch(noticeSet('This browser doesn’t allow notifications here. Allow them in its settings for this page.'));
  };
  return (
    <IconButton
      label="Notify when done"
      icon={notify ? Notified : Notify}
      pressed={notify}
      onPress={() => void choose()}
    />
  );
}
