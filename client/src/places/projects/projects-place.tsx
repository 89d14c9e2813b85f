import type { ProjectSummary } from '@hastig/contract';
import { newProject } from '@hastig/core';
import { formatDistanceToNow } from 'date-fns/formatDistanceToNow';
import { useRouter } from 'expo-router';
import Copy from 'lucide-react-native/icons/copy';
import FolderPlus from 'lucide-react-native/icons/folder-plus';
import Moon from 'lucide-react-native/icons/moon';
import Sun from 'lucide-react-native/icons/sun';
import Trash from 'lucide-react-native/icons/trash';
import { useCallback, useEffect, useState } from 'react';
import { Pressable, Text, View } from 'react-native';
import { api } from '../../store/api';
import { abandonedOutboxes } from '../../store/outbox';
import { sendUnsent } from '../../store/send-unsent';
import { Button, IconButton } from '../../ui/button';
import { Field } from '../../ui/field';
import { Notice } from '../../ui/notice';
import { ImportProject } from './import-project';
import { copyName } from './copy-name';
import { VirtualList } from '../../ui/virtual-list';
import { Page } from '../../ui/page';
import { applyTheme, currentTheme } from '../../ui/theme';

const plural = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`;

/** All projects, and the ways to a new one. */
export function ProjectsPlace() {
  const router = useRouter();
  const [projects, setProjects] = useState<ProjectSummary[] | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [name, setName] = useState<string | null>(null);
  const [leaving, setLeaving] = useState<string | null>(null);
  const [theme, setTheme] = useState(currentTheme);

  const [unsent, setUnsent] = useState<ReadonlySet<string>>(new Set());
  const refresh = useCallback(() => {
    // What could be sent is; what is left meets what others changed, or a server that is away.
    void sendUnsent()
      .then(() => abandonedOutboxes())
      .then((left) => setUnsent(new Set(left.map(({ project }) => project))));
    api.listProjects().then(setProjects, (error: Error) => setFault(error.message));
  }, []);
  useEffect(refresh, [refresh]);

  const enter = (made: Promise<{ id: string }>): void => {
    made.then(
      ({ id }) => router.push(`/project/${id}`),
      (error: Error) => setFault(error.message),
    );
  };
  const create = (): void => {
    if (name?.trim()) enter(api.createProject({ document: newProject(name.trim(), undefined, 'compensated') }));
  };
  const copy = async (id: string): Promise<void> => {
    const { document } = await api.getProject(id);
    await api.createProject({ document: { ...document, name: copyName(document.name, projects ?? []) } });
    refresh();
  };
  const remove = (id: string): void => {
    setLeaving(null);
    api.removeProject(id).then(refresh, (error: Error) => setFault(error.message));
  };
  const turn = (): void => {
    const next = theme === 'dark' ? 'light' : 'dark';
    applyTheme(next);
    setTheme(next);
  };

  return (
    <View className="flex-1 bg-ink">
      {fault ? <Notice text={fault} onDismiss={() => setFault(null)} /> : null}
      <Page>
        <View className="flex-row items-start justify-between">
          <View>
            <Text role="heading" aria-level={1} className="font-medium text-[34px] tracking-tight text-bone">
              Hastig
            </Text>
            <Text className="font-sans text-[15px] text-quiet">A workbench for time</Text>
          </View>
          <IconButton
            label={theme === 'dark' ? 'Light theme' : 'Dark theme'}
            icon={theme === 'dark' ? Sun : Moon}
            onPress={turn}
          />
        </View>
        <View className="flex-row flex-wrap gap-2">
          <Button
            label="New project"
            icon={FolderPlus}
            kind="primary"
            onPress={() => setName(name === null ? '' : null)}
          />
          <Button label="Open demo" onPress={() => enter(api.createDemo())} />
          <Button label="Open music demo" onPress={() => enter(api.createMusicDemo())} />
          <ImportProject onMade={(id) => router.push(`/project/${id}`)} />
        </View>
        {name === null ? null : (
          <View className="flex-row items-end gap-2">
            <Field label="Project name" words atOnce value={name} onChange={setName} onSubmit={create} />
            <Button label="Create" disabled={name.trim() === ''} onPress={create} />
          </View>
        )}
        {projects?.length === 0 ? (
          <Text className="font-sans text-[15px] text-quiet">
            No projects yet. Create one and import clips, or open the demo: a short film from a marble-run workshop,
            ready to retime.
          </Text>
        ) : null}
        <VirtualList
          label="Projects"
          items={projects ?? []}
          keyOf={({ id }) => id}
          height={66}
          gap={8}
          render={(project) => (
            <View className="flex-row items-center rounded-xl border border-line bg-raised">
              <Pressable
                role="link"
                accessibilityLabel={`Open ${project.name}`}
                onPress={() => router.push(`/project/${project.id}`)}
                className="min-h-[64px] flex-1 justify-center gap-1 rounded-xl px-4 py-3 hover:bg-ink"
              >
                <Text numberOfLines={1} className="font-medium text-[17px] text-bone">
                  {project.name}
                </Text>
                <Text className="font-sans text-[13px] text-quiet">
                  {leaving === project.id
                    ? 'This also deletes its version history, and footage no other project uses.'
                    : `${unsent.has(project.id) ? 'has unsaved changes · ' : ''}${plural(project.sources, 'source')} · ${plural(project.clips, 'clip')} · ${formatDistanceToNow(new Date(project.updatedAt), { addSuffix: true })}`}
                </Text>
              </Pressable>
              {leaving === project.id ? (
                <View className="gap-1 py-2 pr-2">
                  <Button label="Delete permanently" onPress={() => remove(project.id)} />
                  <Button label="Cancel" kind="quiet" onPress={() => setLeaving(null)} />
                </View>
              ) : (
                <View className="flex-row pr-1">
                  <IconButton
                    label={`Copy ${project.name}`}
                    icon={Copy}
                    onPress={() => void copy(project.id).catch((error: Error) => setFault(error.message))}
                  />
                  <IconButton label={`Delete ${project.name}`} icon={Trash} onPress={() => setLeaving(project.id)} />
                </View>
              )}
            </View>
          )}
        />
      </Page>
    </View>
  );
}
