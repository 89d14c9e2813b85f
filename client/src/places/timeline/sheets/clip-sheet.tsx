import type { Clip } from '@hastig/contract';
import { SheetFrame } from '../../../ui/sheet-frame';
import { ClipNumbers } from '../clip-numbers';

/** A clip's numbers in a sheet, where they do not stand beside the picture. */
export function ClipSheet({ clip, onClose }: { clip: Clip; onClose(): void }) {
  return (
    <SheetFrame title={clip.name} onClose={onClose}>
      <ClipNumbers clip={clip} />
    </SheetFrame>
  );
}
