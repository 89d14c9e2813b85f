import { usePathname, useRouter, type Href } from 'expo-router';
import Server from 'lucide-react-native/icons/server';
import { useEffect } from 'react';
import { Pressable, Text } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { isOpen } from '../../store/jobs-slice';
import { lookAtJobs } from '../../store/watch-jobs';
import { Icon } from '../../ui/icon';

const JOBS_ADDRESS = '/jobs';

/** How many jobs the server still has to do, wherever one is; nothing where there is none. */
export function JobSign() {
  const dispatch = useAppDispatch();
  const router = useRouter();
  const path = usePathname();
  const count = useAppSelector((state) => state.jobs.list?.filter(isOpen).length ?? 0);
  const known = useAppSelector((state) => state.jobs.list !== undefined);
  useEffect(() => {
    if (!known) void dispatch(lookAtJobs());
  }, [dispatch, known]);
  if (count === 0 || path === JOBS_ADDRESS) return null;
  const words = `${count} server ${count === 1 ? 'job' : 'jobs'}`;
  return (
    <Pressable
      role="link"
      accessibilityLabel={words}
      onPress={() => router.push(JOBS_ADDRESS as Href)}
      className="h-11 flex-row items-center gap-1 rounded-lg px-1.5 hover:bg-line active:opacity-70"
    >
      <Icon of={Server} size={18} tone="quiet" />
      <Text className="font-mono text-[13px] tabular-nums text-quiet">{count}</Text>
    </Pressable>
  );
}
