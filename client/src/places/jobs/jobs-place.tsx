import { View } from 'react-native';
import { useAppDispatch, useSession } from '../../store/hooks';
import { messageSet, noticeSet } from '../../store/session-slice';
import { Notice } from '../../ui/notice';
import { Page } from '../../ui/page';
import { PageHead } from '../../ui/page-head';
import { ServerJobs } from './server-jobs';

/** What the server has to do and did, and the machines that help, whatever project is open. */
export function JobsPlace() {
  const dispatch = useAppDispatch();
  const { notice, message } = useSession('notice', 'message');
  return (
    <View className="flex-1 bg-ink">
      <PageHead title="Server jobs" />
      {message ? <Notice calm text={message} onDismiss={() => dispatch(messageSet(null))} /> : null}
      {notice ? <Notice text={notice} onDismiss={() => dispatch(noticeSet(null))} /> : null}
      <Page>
        <ServerJobs alone />
      </Page>
    </View>
  );
}
