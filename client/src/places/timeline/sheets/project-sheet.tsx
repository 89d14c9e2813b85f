import type { ProjectDocument } from '@hastig/contract';
import { EditRefused } from '@hastig/core';
import { useEffect, useMemo, type ReactNode } from 'react';
import { Text, View } from 'react-native';
import { commitProject } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { projectTried } from '../../../store/session-slice';
import { Button } from '../../../ui/button';
import { SheetFrame } from '../../../ui/sheet-frame';

/** An edit of the project, as the core has them. */
export type ProjectEdit = (project: ProjectDocument) => ProjectDocument;

export interface ProjectSheetProps {
  title: string;
  /** What the edit is called in the history. */
  label: string;
  /** The edit with the numbers as they stand; undefined while one of them is not valid. */
  edit: ProjectEdit | undefined;
  /** What the edit comes to, in a line. */
  outcome(before: ProjectDocument, after: ProjectDocument): string;
  onClose(): void;
  children: ReactNode;
}

/** A sheet for an edit of the project, tried out on timeline and stage while its numbers are filled in. */
export function ProjectSheet({ title, label, edit, outcome, onClose, children }: ProjectSheetProps) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document)!;
  const { result, fault } = useMemo(() => tryOut(project, edit), [project, edit]);
  useEffect(() => void dispatch(projectTried(result ?? null)), [dispatch, result]);
  useEffect(() => () => void dispatch(projectTried(null)), [dispatch]);
  const apply = (): void => {
    if (!result) return;
    dispatch(commitProject(label, result));
    onClose();
  };
  const foot = (
    <View className="flex-row items-center gap-3 border-t border-line px-4 py-2">
      <Text
        role={fault ? 'alert' : 'status'}
        className={`flex-1 font-sans text-[13px] ${fault ? 'text-wrong' : 'text-quiet'}`}
      >
        {fault ?? (result ? outcome(project, result) : 'Fill in the numbers to see what changes.')}
      </Text>
      <Button label="Apply" kind="primary" disabled={!result} onPress={apply} />
    </View>
  );
  return (
    <SheetFrame title={title} onClose={onClose} closing="Discard" foot={foot}>
      {children}
    </SheetFrame>
  );
}

function tryOut(project: ProjectDocument, edit: ProjectEdit | undefined): { result?: ProjectDocument; fault?: string } {
  if (!edit) return {};
  try {
    return { result: edit(project) };
  } catch (error) {
    if (error instanceof EditRefused) return { fault: error.message };
    throw error;
  }
}
