import type { ProjectDocument } from '@hastig/contract';
import { useEffect, useMemo, type ReactNode } from 'react';
import { TrialSheet } from './trial-sheet';
import { tryOut } from './try-out';
import { commitProject } from '../store/edit';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { projectTried } from '../store/session-slice';

/** An edit of the project, as the core has them. */
export type ProjectEdit = (project: ProjectDocument) => ProjectDocument;

export interface ProjectSheetProps {
  title: string;
  /** What the edit is called in the history. */
  label: string;
  /** The edit with the numbers as they stand; undefined while one of them is not valid. */
  edit: ProjectEdit | undefined;
  /** What is kept in its place, where something else is tried out, as while boxes are drawn on the whole frame. */
  kept?: ProjectEdit;
  /** What the edit comes to, in a line. */
  outcome(before: ProjectDocument, after: ProjectDocument): string;
  /** What there is to be done before there is an edit. */
  waiting?: string;
  onClose(): void;
  /** After it was kept. */
  onApplied?(): void;
  children: ReactNode;
}

/** A sheet for an edit of the project, tried out on timeline and stage while its numbers are filled in. */
export function ProjectSheet(props: ProjectSheetProps) {
  const { title, label, edit, kept, outcome, waiting, onClose, onApplied, children } = props;
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document)!;
  const { result, fault } = useMemo(() => tryOut(project, edit), [project, edit]);
  useEffect(() => void dispatch(projectTried(result ?? null)), [dispatch, result]);
  useEffect(() => () => void dispatch(projectTried(null)), [dispatch]);
  const apply = (): void => {
    if (!result) return;
    if (dispatch(commitProject(label, kept ? kept(project) : result))) onApplied?.();
    onClose();
  };
  return (
    <TrialSheet {...{ title, fault, waiting, onClose }} outcome={result && outcome(project, result)} onApply={apply}>
      {children}
    </TrialSheet>
  );
}
