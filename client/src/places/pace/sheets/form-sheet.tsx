import type { RetimeMap } from '@hastig/contract';
import { useMemo, type ReactNode } from 'react';
import { useSession } from '../../../store/hooks';
import { EditSheet } from './edit-sheet';
import { FormFields } from '../../../form/form-fields';
import type { FormContext } from '../../../form/read';
import type { Specs, Values } from '../../../form/specs';
import { useEntries } from '../../../form/use-entries';

/** What every sheet of the place is given. */
export interface SheetProps {
  clipId: string;
  map: RetimeMap;
  onClose(): void;
}

/** What forms start from and are read with. */
function useFormContext(map: RetimeMap): FormContext {
  const { unit, playhead, selectedSpan, marks, keeps } = useSession(
    'unit',
    'playhead',
    'selectedSpan',
    'marks',
    'keeps',
  );
  return { map, unit, playhead, selected: selectedSpan, marks, keeps };
}

interface FormSheetProps<S extends Specs> extends SheetProps {
  title: string;
  /** What the edit is called in the history. */
  label: string;
  /** The fields, from what stands when the sheet opens. */
  fields(context: FormContext): S;
  /** The edit for the values; called again whenever one of them, or the playhead, changes. */
  edit(values: Values<S>, context: FormContext): (map: RetimeMap) => RetimeMap;
  /** A line about the values, beneath the fields. */
  children?: ReactNode;
}

/** A sheet made of fields: an edit or a recipe, tried out while they are filled in. */
export function FormSheet<S extends Specs>({ fields, edit, title, label, children, ...sheet }: FormSheetProps<S>) {
  const context = useFormContext(sheet.map);
  const { specs, texts, values, faults, set } = useEntries(() => fields(context), context);
  const key = values && JSON.stringify([values, context.playhead]);
  // By what they say, not by who they are: the same values make the same edit.
  const change = useMemo(() => (values ? edit(values, context) : undefined), [key]);
  return (
    <EditSheet title={title} label={label} edit={change} {...sheet}>
      <FormFields specs={specs} texts={texts} faults={faults} onChange={(name, text) => set({ [name]: text })} />
      {children}
    </EditSheet>
  );
}
