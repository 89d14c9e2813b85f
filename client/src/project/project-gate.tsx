import { Slot } from 'expo-router';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { lookForChanges, openProject } from '../store/open-project';
import { outboxWorks } from '../store/outbox';
import { projectClosed } from '../store/project-slice';
import { Button } from '../ui/button';
import { ProjectHeader } from './project-header';

/** Loads the project of the address before anything of it is shown, and closes it on leaving. */
export function ProjectGate({ projectId }: { projectId: string }) {
  const dispatch = useAppDispatch();
  const loaded = useAppSelector((state) => state.project.id === projectId);
  const unsaved = useAppSelector((state) => state.project.pending.length > 0);
  const [fault, setFault] = useState<string | null>(null);
  const [tries, setTries] = useState(0);

  useEffect(() => {
    dispatch(openProject(projectId)).catch((error: Error) => setFault(error.message));
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
  return (
    <View className="flex-1 bg-ink">
      <ProjectHeader title="Hastig" back="/" />
      <View className="items-center gap-4 p-8">
        <Text role={fault ? 'alert' : 'status'} className="text-center font-sans text-[15px] text-quiet">
          {fault ?? 'Opening project…'}
        </Text>
        {fault ? <Button label="Try again" onPress={retry} /> : null}
      </View>
    </View>
  );
}
