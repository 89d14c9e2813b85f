import type { Carry, Clip, PictureTrack, ProjectDocument } from '@hastig/contract';
import { effectList, findContainer, findSource, layoutOf, placeOf } from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { useMemo, useState } from 'react';
import { Text } from 'react-native';
import { ProjectSheet } from '../../../form/project-sheet';
import { useAppSelector } from '../../../store/hooks';
import { Choice } from '../../../ui/choice';
import type { PictureSheetProps } from '../commands/context';
import { useStretch } from './use-stretch';

/** A clip whose source has a point, and the point. */
interface Carrier {
  clip: Clip;
  track: PictureTrack;
}

/** The points of clips that are seen while a clip is, on other tracks of the same timeline. */
function carriersOf(project: ProjectDocument, clipId: string): Carrier[] {
  const place = placeOf(project, clipId);
  const container = place && findContainer(project, place.containerId);
  if (!place || !container) return [];
  const beside = container.tracks
    .filter(({ kind }) => kind === 'picture')
    .flatMap((track) => layoutOf(project, track))
    .flatMap(({ clip, from, to }) => (clip && clip.id !== clipId && from < place.to && to > place.from ? [clip] : []));
  return beside.flatMap((clip) => {
    const tracks = clip.of.kind === 'source' ? findSource(project, clip.of.id)?.tracks : undefined;
    return (tracks ?? []).map((track) => ({ clip, track }));
  });
}

/** Attaches a clip's picture to a point that was tracked in a clip on another track: it goes where the point goes. */
export function CarrySheet({ clipId, map, effect, onClose }: PictureSheetProps) {
  const project = useAppSelector((state) => state.project.document)!;
  const before = effectList
    .of(project, clipId)
    .find((one): one is Carry => one.kind === 'carry' && (effect === undefined || one.id === effect));
  const id = useMemo(() => before?.id ?? nanoid(12), [before?.id]);
  const carriers = useMemo(() => carriersOf(project, clipId), [project, clipId]);
  const nameOf = ({ clip, track }: Pick<Carry, 'clip' | 'track'>): string => `${clip} ${track}`;
  const options = carriers.map(({ clip, track }) => ({
    value: nameOf({ clip: clip.id, track: track.id }),
    label: `${clip.name}: ${track.name}`,
  }));
  const [picked, setPicked] = useState(before ? nameOf(before) : options[0]?.value);
  const { fields, over, refused } = useStretch({ clipId, map, before });
  const carrier = carriers.find(({ clip, track }) => nameOf({ clip: clip.id, track: track.id }) === picked);
  const stretch = JSON.stringify(over);
  const edit = useMemo(
    () =>
      carrier &&
      ((state: ProjectDocument): ProjectDocument => {
        if (refused) throw refused;
        const carry: Carry = { id, kind: 'carry', clip: carrier.clip.id, track: carrier.track.id };
        const put = { ...carry, ...(before?.off && { off: true }), ...(over && { over }) };
        return effectList.put(state, { clips: [clipId] }, put);
      }),
    [carrier?.clip.id, carrier?.track.id, id, clipId, stretch, refused?.message, before?.off],
  );
  return (
    <ProjectSheet
      title="Attach to point"
      label="attach to a point"
      waiting="There is no point to attach it to."
      edit={edit}
      onClose={onClose}
      outcome={() => (carrier ? `Goes with ${carrier.track.name} of ${carrier.clip.name}` : 'Nothing changes here')}
    >
      {options.length === 0 ? (
        <Text className="font-sans text-[13px] text-quiet">
          Put this clip on a track above the one with the movement, and track a point there with Points first.
        </Text>
      ) : (
        <>
          <Choice label="Goes with" value={picked ?? ''} onChange={setPicked} options={options} />
          <Text className="font-sans text-[13px] text-quiet">
            Its middle lies on the point; Framing moves it aside from there.
          </Text>
          {fields}
        </>
      )}
    </ProjectSheet>
  );
}
