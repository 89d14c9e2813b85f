import type { ProjectDocument } from '@hastig/contract';
import { useRouter } from 'expo-router';
import { useMemo, useState } from 'react';
import { ScrollView, Text, View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../store/hooks';
import { importFiles, runName, stillsAmong, type StillsRun } from '../../store/import-files';
import { listed, type SourceOrder } from './listed';
import { VersionHistory } from './version-history';
import { FootageHead } from './footage-head';
import { ImportArea } from './import-area';
import { MissingFiles } from './missing-files';
import { SourceCard } from './source-card';
import { StillsOffer } from './stills-offer';
import { VirtualList } from '../../ui/virtual-list';
import { UploadRow } from './upload-row';

/** Pixels of a source's card: at least as wide, and about as high. */
const CARD_WIDTH = 300;
const CARD_HEIGHT = 420;

/** A project's footage: what came in, and the clips made of it. */
export function FootagePlace({ projectId, project }: { projectId: string; project: ProjectDocument }) {
  const dispatch = useAppDispatch();
  const uploads = useAppSelector((state) => state.uploads.filter((one) => one.projectId === projectId));
  const router = useRouter();
  const [find, setFind] = useState('');
  const [order, setOrder] = useState<SourceOrder>('arrival');
  const [runs, setRuns] = useState<readonly StillsRun[]>([]);
  const onFiles = (files: File[]): void => {
    const found = stillsAmong(files);
    setRuns((now) => [...now, ...found.runs]);
    void dispatch(importFiles(found.others));
  };
  const shown = useMemo(() => listed(project.sources, find, order), [project.sources, find, order]);
  const toTheTimeline = (): void => router.push(`/project/${projectId}/timeline`);
  return (
    <ImportArea onFiles={onFiles} some={project.sources.length > 0} onTimeline={toTheTimeline}>
      <ScrollView className="flex-1" contentContainerClassName="items-center px-4 py-4">
        <View className="w-full max-w-[1200px] gap-3">
          <MissingFiles projectId={projectId} />
          {uploads.length > 0 ? (
            <View role="list" aria-label="Importing" className="gap-2">
              {uploads.map((upload) => (
                <UploadRow key={upload.id} upload={upload} />
              ))}
            </View>
          ) : null}
          {runs.map((run) => (
            <StillsOffer
              key={runName(run)}
              run={run}
              rate={project.sequence.rate}
              onDone={() => setRuns((now) => now.filter((one) => one !== run))}
            />
          ))}
          {project.sources.length === 0 && uploads.length === 0 && runs.length === 0 ? (
            <Text className="py-8 text-center font-sans text-[15px] text-quiet">
              No footage yet. Import clips, or drop files anywhere on this page.
            </Text>
          ) : null}
          <FootageHead {...{ project, find, order }} onFind={setFind} onOrder={setOrder} />
          {shown.length === 0 && project.sources.length > 0 ? (
            <Text className="py-4 text-center font-sans text-[15px] text-quiet">{`No footage matches “${find}”.`}</Text>
          ) : null}
          <VirtualList
            label="Sources"
            items={shown}
            keyOf={({ id }) => id}
            nameOf={({ name }) => name}
            height={CARD_HEIGHT}
            columnWidth={CARD_WIDTH}
            gap={12}
            render={(source) => <SourceCard source={source} project={project} projectId={projectId} />}
          />
          <VersionHistory />
        </View>
      </ScrollView>
    </ImportArea>
  );
}
