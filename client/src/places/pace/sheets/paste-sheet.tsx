import { pasteTiming, type PasteHow } from '@hastig/core';
import { useAppSelector } from '../../../store/hooks';
import { FormSheet, type SheetProps } from './form-sheet';
import { choiceField } from '../../../form/specs';

/** Pastes the timing that was copied from a clip. */
export function PasteSheet(props: SheetProps) {
  const copied = useAppSelector((state) => state.session.copied);
  if (!copied) return null;
  return (
    <FormSheet
      {...props}
      title={`Paste the timing of ${copied.from}`}
      label="paste a timing"
      fields={() => ({
        how: choiceField<PasteHow>('What', 'whole', [
          { value: 'whole', label: 'All of it' },
          { value: 'shape', label: 'Its shape, this length' },
        ]),
      })}
      edit={({ how }) =>
        (map) =>
          pasteTiming(map, copied.timing, how)
        }
    />
  );
}
