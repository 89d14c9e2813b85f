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
      title={`Paste timing from ${copied.from}`}
      label="paste a timing"
      fields={() => ({
        how: choiceField<PasteHow>('Paste', 'exact', [
          { value: 'exact', label: 'Exact timing' },
          { value: 'shape', label: 'Shape, keep duration' },
        ]),
      })}
      edit={({ how }) =>
        (map) =>
          pasteTiming(map, copied.timing, how)
        }
    />
  );
}
