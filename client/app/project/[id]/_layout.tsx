import { useLocalSearchParams } from 'expo-router';
import { ProjectGate } from '../../../src/project/project-gate';

export default function ProjectLayout() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <ProjectGate projectId={id} />;
}
