import { useGlobalSearchParams } from 'expo-router';
import { WorkFrame } from '../../../../src/project/work-frame';

export default function StageLayout() {
  const { id, clipId, groupId, sourceId } = useGlobalSearchParams<{
    id: string;
    clipId?: string;
    groupId?: string;
    sourceId?: string;
  }>();
  return <WorkFrame projectId={id} {...{ clipId, groupId, sourceId }} />;
}
