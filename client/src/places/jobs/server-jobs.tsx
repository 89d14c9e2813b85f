import { useEffect } from 'react';
import { Text, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { lookAtJobs, watchJobs } from '../../store/watch-jobs';
import { NotifyButton } from '../../project/notify-button';
import { JobRow } from './job-row';
import { Machines } from './machines';

/**
 * Everything the server has to do and did, for all projects, and the machines that help.
 *
 * @param inProject whether a project is open that files can become sources of
 * @param alone whether it is a page of its own
 */
export function ServerJobs({ inProject = false, alone = false }: { inProject?: boolean; alone?: boolean }) {
  const dispatch = useAppDispatch();
  const list = useAppSelector((state) => state.jobs.list);
  useEffect(() => {
    void dispatch(lookAtJobs());
    return dispatch(watchJobs());
  }, [dispatch]);
  return (
    <View role="group" aria-label="Server" className={alone ? 'gap-3' : 'gap-3 border-t border-line pt-4'}>
      <View className="flex-row items-center justify-between">
        <Text role="heading" aria-level={2} className="font-medium text-[16px] text-bone">
          {alone ? 'Jobs' : 'Server'}
        </Text>
        <NotifyButton />
      </View>
      {list && list.length > 0 ? (
        <View role="list" aria-label="Server jobs" className="gap-2">
          {list.map((job) => (
            <JobRow key={job.id} job={job} inProject={inProject} />
          ))}
        </View>
      ) : (
        <Text className="font-sans text-[14px] text-quiet">
          No jobs. A render on the server goes on when this tab is closed; it is listed here for all projects.
        </Text>
      )}
      <Machines />
    </View>
  );
}
