import type { ProjectDocument } from '@hastig/contract';
import {
  formatPercent,
  muteClip,
  pasteTimingOn,
  plainSound,
  setExposures,
  setPicture,
  setSound,
  shownSpeed,
  type PasteHow,
} from '@hastig/core';
import { useMemo, useState } from 'react';
import { useSession } from '../../../store/hooks';
import type { CopiedSettings } from '../../../store/session-slice';
import { Checks } from '../../../ui/checks';
import { Choice } from '../../../ui/choice';
import { ProjectSheet } from '../../../form/project-sheet';

/** What can be taken over from a copied clip. */
const parts = ['timing', 'picture', 'exposure', 'sound'] as const;
type Part = (typeof parts)[number];

const labels: Record<Part, string> = { timing: 'Timing', picture: 'Framing', exposure: 'Exposure', sound: 'Sound' };

/** What each of them is, for the line that says what is pasted. */
function wordsOf(part: Part, copied: CopiedSettings): string {
  if (part === 'picture') return copied.picture ? 'framing' : 'default framing';
  if (part === 'exposure') return copied.exposures ? 'exposures' : 'no exposure';
  if (part === 'sound') return copied.muted ? 'muted' : copied.sound ? 'sound settings' : 'default sound settings';
  return 'timing';
}

function paste(
  project: ProjectDocument,
  clipIds: readonly string[],
  copied: CopiedSettings,
  what: readonly Part[],
  how: PasteHow,
): ProjectDocument {
  const timed = what.includes('timing') ? pasteTimingOn(project, clipIds, copied.timing, how) : project;
  const laid = what.includes('picture') ? setPicture(timed, clipIds, copied.picture) : timed;
  const exposed = what.includes('exposure')
    ? setExposures(laid, { clips: clipIds }, () => copied.exposures ?? [])
    : laid;
  if (!what.includes('sound')) return exposed;
  const sounding = setSound(exposed, clipIds, () => copied.sound ?? plainSound);
  return clipIds.reduce((one, id) => muteClip(one, id, copied.muted), sounding);
}

/** Pastes what was copied from a clip on others; which of it is chosen here. */
export function PasteSheet({ clipIds, onClose }: { clipIds: readonly string[]; onClose(): void }) {
  const { copied } = useSession('copied');
  const [how, setHow] = useState<PasteHow>('shape');
  const [what, setWhat] = useState<Part[]>(['timing']);
  const ids = clipIds.join(' ');
  const edit = useMemo(
    () =>
      copied && clipIds.length > 0 && what.length > 0
        ? (project: ProjectDocument) => paste(project, clipIds, copied, what, how)
        : undefined,
    [copied, ids, how, what],
  );
  const outcome = (_: ProjectDocument, after: ProjectDocument): string => {
    const words = parts.filter((part) => what.includes(part)).map((part) => wordsOf(part, copied!));
    const on = clipIds.length === 1 ? 'one clip' : `${clipIds.length} clips`;
    const speed =
      what.includes('timing') && clipIds.length === 1
        ? `; mean speed ${formatPercent(shownSpeed(after, clipIds[0]!))}`
        : '';
    return `On ${on}: ${words.join(', ')}${speed}`;
  };
  return (
    <ProjectSheet
      title={`Paste from ${copied?.from ?? 'a clip'}`}
      label="paste on clips"
      edit={edit}
      onClose={onClose}
      outcome={outcome}
    >
      <Checks
        label="Paste"
        values={what}
        onChange={setWhat}
        options={parts.map((value) => ({ value, label: labels[value] }))}
      />
      {what.includes('timing') ? (
        <Choice
          label="Timing"
          value={how}
          onChange={setHow}
          options={[
            { value: 'shape', label: 'Shape, keep duration' },
            { value: 'exact', label: 'Exact timing' },
          ]}
        />
      ) : null}
    </ProjectSheet>
  );
}
