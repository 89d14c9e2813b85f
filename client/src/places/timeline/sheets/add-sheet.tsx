import type { Source } from '@hastig/contract';
import {
  addTrack,
  appendClip,
  findContainer,
  formatRate,
  formatTime,
  insertClip,
  kindOf,
  sourceFrames,
  sourceRate,
  splitClip,
  trackKindOf,
  wholeClip,
  clipAt,
} from '@hastig/core';
import Plus from 'lucide-react-native/icons/plus';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { useStore } from 'react-redux';
import { rearrange } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { clipsSelected } from '../../../store/session-slice';
import type { RootState } from '../../../store/store';
import { IconButton } from '../../../ui/button';
import { Choice } from '../../../ui/choice';
import { SheetFrame } from '../../../ui/sheet-frame';
import { VirtualList } from '../../../ui/virtual-list';
import type { ProjectEdit } from '../../../form/project-sheet';
import { newId } from '../../../store/new-id';

/** Where footage is laid. */
type Place = 'end' | 'playhead' | 'above' | 'sound';

/** Lays a source as a clip of its own, in a place. */
function laid(source: Source, containerId: string, place: Place, playhead: number, clipId: string): ProjectEdit {
  return (project) => {
    const container = findContainer(project, containerId)!;
    const clip = wholeClip(project, clipId, source, container.rate);
    const own = trackKindOf(project, clip);
    const first = container.tracks.find(({ kind }) => kind === own);
    if (place === 'end' || (place === 'playhead' && !first)) return appendClip(project, containerId, clip);
    if (place === 'playhead' && first) {
      // What lies at the playhead is split, so that the new clip begins there.
      const under = clipAt(project, first, playhead);
      const split =
        under?.clip && under.from < playhead ? splitClip(project, under.clip.id, playhead, newId()) : project;
      return insertClip(split, containerId, first.id, playhead, clip);
    }
    const kind = place === 'sound' ? 'sound' : own;
    const track = container.tracks.filter((one) => one.kind === kind && one !== first).at(-1);
    if (track) return insertClip(project, containerId, track.id, playhead, clip);
    const id = newId();
    return insertClip(addTrack(project, containerId, kind, id), containerId, id, playhead, clip);
  };
}

function aboutSource(source: Source): string {
  const kind = kindOf(source.facts);
  if (kind === 'still') return 'still';
  const lasts = formatTime(sourceFrames(source), sourceRate(source), 'seconds');
  return `${kind === 'sound' ? 'sound' : formatRate(sourceRate(source))} · ${lasts}`;
}

/** The project's footage, to be laid on the timeline. */
export function AddSheet({ containerId, onClose }: { containerId: string; onClose(): void }) {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const project = useAppSelector((state) => state.project.document)!;
  const [place, setPlace] = useState<Place>('end');
  const add = (source: Source): void => {
    const id = newId();
    const { playhead } = store.getState().session;
    if (dispatch(rearrange(`add ${source.name}`, laid(source, containerId, place, playhead, id))))
      dispatch(clipsSelected([id]));
  };
  return (
    <SheetFrame title="Add footage" onClose={onClose}>
      <Choice
        label="Position"
        value={place}
        onChange={setPlace}
        options={[
          { value: 'end', label: 'At end' },
          { value: 'playhead', label: 'At playhead' },
          { value: 'above', label: 'Above, at playhead' },
          { value: 'sound', label: 'Sound only' },
        ]}
      />
      {project.sources.length === 0 ? (
        <Text className="font-sans text-[14px] text-quiet">
          No footage yet. Go to the project’s footage and import clips.
        </Text>
      ) : null}
      <VirtualList
        label="Footage"
        items={project.sources}
        keyOf={({ id }) => id}
        height={48}
        gap={4}
        render={(source) => (
          <View className="min-h-[48px] flex-row items-center gap-2 rounded-lg border border-line bg-ink pl-3">
            <Text numberOfLines={1} className="min-w-0 flex-1 font-sans text-[14px] text-bone">
              {source.name}
            </Text>
            <Text className="font-mono text-[12px] text-quiet">{aboutSource(source)}</Text>
            <IconButton
              label={`Add ${source.name}`}
              icon={Plus}
              disabled={place === 'sound' && !source.facts.audio}
              onPress={() => add(source)}
            />
          </View>
        )}
      />
    </SheetFrame>
  );
}
