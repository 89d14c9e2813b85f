import { View } from 'react-native';
import { ProjectNotices } from '../../project/project-notices';
import { ProjectHeader } from '../../project/project-header';
import { useAppSelector } from '../../store/hooks';
import { FootagePlace } from './footage-place';

/** The page of a project's footage, outside the stage. */
export function FootagePage({ projectId }: { projectId: string }) {
  const project = useAppSelector((state) => state.project.document);
  if (!project) return null;
  return (
    <View className="flex-1 bg-ink">
      <ProjectHeader title={project.name} back="/" />
      <ProjectNotices />
      <View role="main" className="min-h-0 flex-1">
        <FootagePlace projectId={projectId} project={project} />
      </View>
    </View>
  );
}
