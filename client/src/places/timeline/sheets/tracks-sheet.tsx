import { addTrack, findContainer, removeTrack, switchTrack } from '@hastig/core';
import Eye from 'lucide-react-native/icons/eye';
import EyeOff from 'lucide-react-native/icons/eye-off';
import Trash from 'lucide-react-native/icons/trash';
import { Text, View } from 'react-native';
import { rearrange } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { Button, IconButton } from '../../../ui/button';
import { SheetFrame } from '../../../ui/sheet-frame';
import { tracksInOrder } from '../lanes/lanes-view';
import { newId } from '../../../store/new-id';

/** The tracks, from top to bottom as they lie: more of them, and each on or off. */
export function TracksSheet({ containerId, onClose }: { containerId: string; onClose(): void }) {
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.document)!;
  const container = findContainer(project, containerId)!;
  const add = (kind: 'picture' | 'sound'): void =>
    void dispatch(rearrange(`add a ${kind} track`, (now) => addTrack(now, containerId, kind, newId())));
  return (
    <SheetFrame title="Tracks" onClose={onClose}>
      <View className="flex-row flex-wrap gap-2">
        <Button label="Add picture track" onPress={() => add('picture')} />
        <Button label="Add sound track" onPress={() => add('sound')} />
      </View>
      <View role="list" aria-label="Track order" className="gap-1">
        {tracksInOrder(container).map(({ track }) => {
          const clips = track.items.filter((item) => 'clip' in item).length;
          return (
            <View
              key={track.id}
              role="listitem"
              aria-label={track.name}
              className="min-h-[48px] flex-row items-center gap-1 rounded-lg border border-line bg-ink pl-3"
            >
              <Text className="min-w-0 flex-1 font-sans text-[14px] text-bone">{track.name}</Text>
              <Text className="font-mono text-[12px] text-quiet">{`${clips} ${clips === 1 ? 'clip' : 'clips'}`}</Text>
              <IconButton
                label={`${track.name}: ${track.off ? 'off' : 'on'}`}
                icon={track.off ? EyeOff : Eye}
                pressed={!track.off}
                onPress={() =>
                  dispatch(
                    rearrange('turn a track on or off', (now) => switchTrack(now, containerId, track.id, !track.off)),
                  )
                }
              />
              <IconButton
                label={`Remove ${track.name}`}
                icon={Trash}
                disabled={clips > 0 || container.tracks.length === 1}
                onPress={() => dispatch(rearrange('remove a track', (now) => removeTrack(now, containerId, track.id)))}
              />
            </View>
          );
        })}
      </View>
      <Text className="font-sans text-[13px] text-quiet">
        Upper picture tracks cover lower ones. Only empty tracks can be removed.
      </Text>
    </SheetFrame>
  );
}
