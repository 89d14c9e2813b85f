import { newProject } from '@hastig/core';
import { useRouter } from 'expo-router';
import Handbook from 'lucide-react-native/icons/circle-question-mark';
import Copy from 'lucide-react-native/icons/copy';
import Download from 'lucide-react-native/icons/download';
import FolderPlus from 'lucide-react-native/icons/folder-plus';
import ListChecks from 'lucide-react-native/icons/list-checks';
import Moon from 'lucide-react-native/icons/moon';
import Sun from 'lucide-react-native/icons/sun';
import Trash from 'lucide-react-native/icons/trash';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { PathOffer } from '../../path/path-offer';
import { api } from '../../store/api';
import { Button, IconButton } from '../../ui/button';
import { Choice } from '../../ui/choice';
import { Field } from '../../ui/field';
import { Notice } from '../../ui/notice';
import { Page } from '../../ui/page';
import { applyTheme, currentTheme } from '../../ui/theme';
import { VirtualList } from '../../ui/virtual-list';
import { JobSign } from '../jobs/job-sign';
import { ImportProject } from './import-project';
import { listedProjects, MANY, type ProjectOrder } from './listed';
import { ProjectRow } from './project-row';
import { RemovedProjects } from './removed-projects';
import { useProjects } from './use-projects';

const orders: readonly { value: ProjectOrder; label: string }[] = [
  { value: 'changed', label: 'Last changed' },
  { value: 'name', label: 'Name' },
  { value: 'length', label: 'Length' },
  { value: 'size', label: 'Size' },
];

/** All projects, and the ways to a new one. */
export function ProjectsPlace() {
  const router = useRouter();
  const list = useProjects();
  const { projects, setFault } = list;
  const [name, setName] = useState<string | null>(null);
  const [theme, setTheme] = useState(currentTheme);
  const [sought, setSought] = useState('');
  const [order, setOrder] = useState<ProjectOrder>('changed');
  /** Those that are chosen, while some are being chosen. */
  const [chosen, setChosen] = useState<ReadonlySet<string> | null>(null);

  const enter = (made: Promise<{ id: string }>): void => {
    made.then(
      ({ id }) => router.push(`/project/${id}`),
      (error: Error) => setFault(error.message),
    );
  };
  const create = (): void => {
    if (name?.trim()) enter(api.createProject({ document: newProject(name.trim(), undefined, 'compensated') }));
  };
  const choose = (id: string): void =>
    setChosen((some) => {
      const next = new Set(some);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const withChosen = (what: (ids: string[]) => unknown): void => {
    // In the order in which they are listed.
    what(shown.flatMap(({ id }) => (chosen?.has(id) ? [id] : [])));
    setChosen(null);
  };
  const turn = (): void => {
    const next = theme === 'dark' ? 'light' : 'dark';
    applyTheme(next);
    setTheme(next);
  };

  const many = (projects?.length ?? 0) >= MANY;
  const shown = listedProjects(projects ?? [], many ? sought : '', many ? order : 'changed');
  const { undoable } = list;
  return (
    <View className="flex-1 bg-ink">
      {list.fault ? <Notice text={list.fault} onDismiss={() => setFault(null)} /> : null}
      {undoable.length > 0 ? (
        <Notice
          calm
          text={undoable.length === 1 ? `Removed ${undoable[0]!.name}.` : `Removed ${undoable.length} projects.`}
          onDismiss={list.forgetUndo}
        >
          <Button label="Undo" onPress={() => void list.restore(undoable.map(({ id }) => id))} />
        </Notice>
      ) : null}
      <Page>
        <View className="flex-row items-start justify-between">
          <View>
            <Text role="heading" aria-level={1} className="font-medium text-[34px] tracking-tight text-bone">
              Hastig
            </Text>
            <Text className="font-sans text-[15px] text-quiet">A workbench for time</Text>
          </View>
          <View className="flex-row">
            <JobSign />
            <IconButton label="Handbook" icon={Handbook} onPress={() => router.push('/handbook')} />
            <IconButton
              label={theme === 'dark' ? 'Light theme' : 'Dark theme'}
              icon={theme === 'dark' ? Sun : Moon}
              onPress={turn}
            />
          </View>
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
        <PathOffer onFault={setFault} />
        {projects?.length === 0 ? (
          <Text className="font-sans text-[15px] text-quiet">
            No projects yet. Create one and import clips, or open the demo: a short film from a marble-run workshop,
            ready to retime.
          </Text>
        ) : null}
        {many ? (
          <View className="gap-3">
            <Field label="Search projects" words value={sought} onChange={setSought} />
            <Choice label="Order" options={orders} value={order} onChange={setOrder} />
          </View>
        ) : null}
        {projects && projects.length > 1 ? (
          <View role="toolbar" aria-label="Several projects" className="flex-row flex-wrap items-center gap-1">
            {chosen === null ? (
              <Button label="Select several" icon={ListChecks} kind="quiet" onPress={() => setChosen(new Set())} />
            ) : (
              <>
                <Text className="px-2 font-sans text-[14px] text-quiet">{`${chosen.size} selected`}</Text>
                <Button label="All" kind="quiet" onPress={() => setChosen(new Set(shown.map(({ id }) => id)))} />
                <IconButton
                  label="Copy selected"
                  icon={Copy}
                  disabled={chosen.size === 0}
                  onPress={() => withChosen((ids) => void list.copy(ids))}
                />
                <IconButton
                  label="Export selected"
                  icon={Download}
                  disabled={chosen.size === 0}
                  onPress={() => withChosen(list.save)}
                />
                <IconButton
                  label="Remove selected"
                  icon={Trash}
                  disabled={chosen.size === 0}
                  onPress={() => withChosen((ids) => void list.remove(ids))}
                />
                <Button label="Done" kind="quiet" onPress={() => setChosen(null)} />
              </>
            )}
          </View>
        ) : null}
        <VirtualList
          label="Projects"
          items={shown}
          keyOf={({ id }) => id}
          nameOf={(project) => project.name}
          height={78}
          gap={8}
          render={(project) => (
            <ProjectRow
              project={project}
              unsent={list.unsent.has(project.id)}
              chosen={chosen?.has(project.id)}
              onChoose={() => choose(project.id)}
              onCopy={() => void list.copy([project.id])}
              onRemove={() => void list.remove([project.id])}
            />
          )}
        />
        {many && shown.length === 0 ? (
          <Text className="font-sans text-[14px] text-quiet">No project has these words in its name.</Text>
        ) : null}
        <RemovedProjects
          removed={list.removed}
          onRestore={(id) => void list.restore([id])}
          onDelete={(id) => void list.purge(id)}
        />
      </Page>
    </View>
  );
}
