import type { ProjectDocument } from '@hastig/contract';
import { findClip, mapOf } from '@hastig/core';
import { useMemo, type ReactNode } from 'react';
import { FormFields } from './form-fields';
import type { FormContext } from './read';
import type { Specs, Values } from './specs';
import { useEntries, type Entries } from './use-entries';
import { useAppSelector, useSession } from '../store/hooks';
import { ProjectSheet, type ProjectEdit, type ProjectSheetProps } from './project-sheet';

interface ProjectFormProps<S extends Specs> extends Omit<ProjectSheetProps, 'edit' | 'children'> {
  /** The clip the numbers are about. */
  clipId: string;
  fields(context: FormContext): S;
  edit(values: Values<S>): ProjectEdit;
  /** Before the fields. */
  lead?: ReactNode;
  children?: ReactNode;
}

/** What a form about a clip is filled in about. */
export function useFormContext(clipId: string): FormContext {
  const { unit, playhead, marks, keeps } = useSession('unit', 'playhead', 'marks', 'keeps');
  const project = useAppSelector((state) => state.project.document)!;
  return { map: mapOf(project, findClip(project, clipId)!), unit, playhead, selected: null, marks, keeps };
}

interface PlainFormProps<S extends Specs> extends Omit<ProjectFormProps<S>, 'clipId' | 'fields'> {
  fields(): S;
}

/** The same for numbers that are about no clip, and about no moment of one. */
export function PlainForm<S extends Specs>({ fields, edit, lead, children, ...sheet }: PlainFormProps<S>) {
  return <Filled entries={useEntries(fields)} {...{ edit, lead, children, sheet }} />;
}

/** A sheet made of fields for an edit of the project. */
export function ProjectForm<S extends Specs>({ clipId, fields, edit, lead, children, ...sheet }: ProjectFormProps<S>) {
  const context = useFormContext(clipId);
  return <Filled entries={useEntries(() => fields(context), context)} {...{ edit, lead, children, sheet }} />;
}

interface FilledProps<S extends Specs> extends Pick<ProjectFormProps<S>, 'edit' | 'lead' | 'children'> {
  entries: Entries<S>;
  sheet: Omit<ProjectSheetProps, 'edit' | 'children'>;
}

function Filled<S extends Specs>({ entries, edit, lead, children, sheet }: FilledProps<S>) {
  const { specs, texts, values, faults, set } = entries;
  const key = values && JSON.stringify(values);
  // By what they say, not by who they are: the same values make the same edit.
  const change = useMemo(() => (values ? edit(values) : undefined), [key]);
  return (
    <ProjectSheet {...sheet} edit={change}>
      {lead}
      <FormFields specs={specs} texts={texts} faults={faults} onChange={(name, text) => set({ [name]: text })} />
      {children}
    </ProjectSheet>
  );
}

/** How long a clip is before and after an edit, in a line. */
export function clipLengths(before: ProjectDocument, after: ProjectDocument, clipId: string): string {
  const [from, to] = [findClip(before, clipId)?.shown.frames ?? 0, findClip(after, clipId)?.shown.frames ?? 0];
  return from === to ? `Duration stays ${from} frames` : `Duration ${from} → ${to} frames`;
}
