import { useLocalSearchParams, usePathname } from 'expo-router';
import { WorkFrame } from '../../../../src/project/work-frame';

/** What an address of a place is about; parameters of the place before may still be there while one goes to another. */
function targetIn(path: string): { clipId?: string; groupId?: string; sourceId?: string } {
  const [, kind, id] = /\/(clip|group|source)\/([^/]+)/.exec(path) ?? [];
  return kind && id ? { [`${kind}Id`]: decodeURIComponent(id) } : {};
}

export default function StageLayout() {
  const { id } = useLocalSearchParams<{ id: string }>();
  const path = usePathname();
  return <WorkFrame projectId={id} {...targetIn(path)} />;
}
