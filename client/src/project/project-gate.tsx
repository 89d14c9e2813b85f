import { Slot, useRouter } from 'expo-router';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { Refused } from '../store/api';
import { lookForChanges, openProject } from '../store/open-project';
import { outboxWorks } from '../store/outbox';
import { projectClosed } from '../store/project-slice';
import { Button } from '../ui/button';
import { LostPage } from '../ui/lost-page';
import { ProjectHeader } from './project-header';

/** Loads the project of the address before anything of it is shown, and closes it on leaving. */
export function ProjectGate({ projectId }: { projectId: string }) {
  const dispatch = useAppDispatch();
  const router = useRouter();
  const loaded = useAppSelector((state) => state.project.id === projectId);
  const unsaved = useAppSelector((state) => state.project.pending.length > 0);
  const [fault, setFault] = useState<Fault | null>(null);
  const [tries, setTries] = useState(0);

  useEffect(() => {
    dispatch(openProject(projectId)).catch((error: Error) => setFault(faultOf(error)));
  }, [dispatch, projectId, tries]);
  useEffect(() => () => void dispatch(projectClosed()), [dispatch]);

  useEffect(() => {
    const look = (): void => {
      if (document.visibilityState === 'visible') void dispatch(lookForChanges());
    };
    document.addEventListener('visibilitychange', look);
    globalThis.addEventListener('focus', look);
    return () => {
      document.removeEventListener('visibilitychange', look);
      globalThis.removeEventListener('focus', look);
    };
  }, [dispatch]);

  useEffect(() => {
    if (!unsaved) return undefined;
    // Only where nothing would survive the page.
    const warn = (event: BeforeUnloadEvent): void => {
      if (!outboxWorks()) event.preventDefault();
    };
    globalThis.addEventListener('beforeunload', warn);
    return () => globalThis.removeEventListener('beforeunload', warn);
  }, [unsaved]);

  const retry = (): void => {
    setFault(null);
    setTries(tries + 1);
  };

  if (loaded) return <Slot />;
  if (fault)
    return (
      <LostPage title={fault.gone ? 'This project doesn’t exist' : 'The project can’t be opened'} text={fault.text}>
        <Button label="All projects" kind={fault.gone ? 'primary' : 'plain'} onPress={() => router.replace('/')} />
        {fault.gone ? null : <Button label="Try again" kind="primary" onPress={retry} />}
      </LostPage>
    );
  return (
    <View className="flex-1 bg-ink">
      <ProjectHeader title="Hastig" back="/" />
      <Text role="status" className="p-8 text-center font-sans text-[15px] text-quiet">
        Opening project…
      </Text>
    </View>
  );
}

interface Fault {
  text: string;
  /** Trying again would change nothing. */
  gone: boolean;
}

function faultOf(error: Error): Fault {
  const gone = error instanceof Refused && error.problem.status === 404;
  return { gone, text: gone ? 'It may have been deleted, or the link is incomplete.' : error.message };
}
