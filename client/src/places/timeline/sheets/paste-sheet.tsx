import type { Effect, ProjectDocument } from '@hastig/contract';
import {
  effectList,
  findClip,
  findSource,
  formatPercent,
  muteClip,
  pasteTimingOn,
  plainSound,
  setPicture,
  setSound,
  tracksNeeded,
  shownSpeed,
  type PasteHow,
  exposureList,
} from '@hastig/core';
import { useMemo, useState } from 'react';
import { useSession } from '../../../store/hooks';
import type { CopiedSettings } from '../../../store/session-slice';
import { Checks } from '../../../ui/checks';
import { Choice } from '../../../ui/choice';
import { ProjectSheet } from '../../../form/project-sheet';

/** What can be taken over from a copied clip. */
const parts = ['timing', 'picture', 'exposure', 'effects', 'sound'] as const;
type Part = (typeof parts)[number];

const labels: Record<Part, string> = {
  timing: 'Timing',
  picture: 'Framing',
  exposure: 'Exposure',
  effects: 'Effects',
  sound: 'Sound',
};

/** What each of them is, for the line that says what is pasted. */
function wordsOf(part: Part, copied: CopiedSettings): string {
  if (part === 'picture') return copied.picture ? 'framing' : 'default framing';
  if (part === 'exposure') return copied.exposures ? 'exposures' : 'no exposure';
  if (part === 'effects') return copied.effects ? 'effects' : 'no effects';
  if (part === 'sound') return copied.muted ? 'muted' : copied.sound ? 'sound settings' : 'default sound settings';
  return 'timing';
}

/** Gives clips the effects of some kinds in place of those of these kinds that they have. */
function pasteEffects(
  project: ProjectDocument,
  clips: readonly string[],
  copied: readonly Effect[],
  kinds: readonly Effect['kind'][],
): ProjectDocument {
  return clips.reduce((state, id) => {
    // What is held still or followed is a track of the source, which other sources do not have.
    const has = (effect: Effect): boolean =>
      effect.kind === 'carry' ? effect.clip !== id : hasTracks(state, id, tracksNeeded(effect));
    return effectList.set(state, { clips: [id] }, (list) => [
      ...list.filter(({ kind }) => !kinds.includes(kind)),
      ...copied.filter((effect) => kinds.includes(effect.kind) && has(effect)),
    ]);
  }, project);
}

function hasTracks(project: ProjectDocument, clipId: string, ids: readonly string[]): boolean {
  const of = findClip(project, clipId)?.of;
  const tracks = of?.kind === 'source' ? findSource(project, of.id)?.tracks : undefined;
  return ids.every((id) => tracks?.some((track) => track.id === id));
}

const kindLabels: Record<Effect['kind'], string> = {
  trail: 'Trails',
  flash: 'Flashes',
  reframe: 'Reframes',
  steady: 'Held points',
  smooth: 'Smoothed camera',
  carry: 'Attached to a point',
};
const allKinds = Object.keys(kindLabels) as Effect['kind'][];

function paste(
  project: ProjectDocument,
  clipIds: readonly string[],
  copied: CopiedSettings,
  what: readonly Part[],
  { how, kinds }: { how: PasteHow; kinds: readonly Effect['kind'][] },
): ProjectDocument {
  const timed = what.includes('timing') ? pasteTimingOn(project, clipIds, copied.timing, how) : project;
  const laid = what.includes('picture') ? setPicture(timed, clipIds, copied.picture) : timed;
  const exposed = what.includes('exposure')
    ? exposureList.set(laid, { clips: clipIds }, () => copied.exposures ?? [])
    : laid;
  const done = what.includes('effects') ? pasteEffects(exposed, clipIds, copied.effects ?? [], kinds) : exposed;
  if (!what.includes('sound')) return done;
  const sounding = setSound(done, clipIds, () => copied.sound ?? plainSound);
  return clipIds.reduce((one, id) => muteClip(one, id, copied.muted), sounding);
}

/** Pastes what was copied from a clip on others; which of it is chosen here. */
export function PasteSheet({ clipIds, onClose }: { clipIds: readonly string[]; onClose(): void }) {
  const { copied } = useSession('copied');
  const [how, setHow] = useState<PasteHow>('shape');
  const [what, setWhat] = useState<Part[]>(['timing']);
  const [kinds, setKinds] = useState(allKinds);
  const ids = clipIds.join(' ');
  const edit = useMemo(
    () =>
      copied && clipIds.length > 0 && what.length > 0
        ? (project: ProjectDocument) => paste(project, clipIds, copied, what, { how, kinds })
        : undefined,
    [copied, ids, how, what, kinds],
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
      {what.includes('effects') ? (
        <Checks
          label="Effects"
          values={kinds}
          onChange={setKinds}
          options={allKinds.map((value) => ({ value, label: kindLabels[value] }))}
        />
      ) : null}
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
