import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import type { ProjectDocument } from '@hastig/contract';
import type { OwnedList, PictureOwner } from '@hastig/core';
import { Text, View } from 'react-native';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useSession } from '../../store/hooks';
import { OwnedRow } from './owned-row';

/** Pixels a handle is moved before its row is dragged. */
const SLOP = 4;

interface Owned {
  id: string;
  off?: boolean;
}

interface OwnedRowsProps<T extends Owned> {
  /** Whose they are: `Clip`. */
  name: string;
  /** What each is called: `exposure`. */
  noun: 'exposure' | 'effect';
  list: OwnedList<T>;
  all: readonly T[];
  owner: PictureOwner;
  empty: string;
  /** What it does, in words. */
  words(one: T): string;
  /** Where and when, and what it costs. */
  told(one: T): string;
  onOpen(one: T): void;
}

const instructions = {
  draggable:
    'Press space to pick it up, the arrow keys to move it, space to put it down, escape to leave it where it was.',
};

/** What is said while a row is moved, by its place in the list. */
const moves = (noun: string, place: (id: string | number) => string): Announcements => ({
  onDragStart: ({ active }) => `Picked up ${noun} ${place(active.id)}.`,
  onDragOver: ({ over }) => (over ? `Now at ${place(over.id)}.` : undefined),
  onDragEnd: ({ over }) => (over ? `Put at ${place(over.id)}.` : 'Put back.'),
  onDragCancel: () => 'Put back.',
});

/** What a clip or the film has of one kind, in order: what is further down comes after what is above it. */
export function OwnedRows<T extends Owned>(props: OwnedRowsProps<T>) {
  const { name, noun, list, all, owner, empty, words, told, onOpen } = props;
  const dispatch = useAppDispatch();
  const { trial } = useSession('trial');
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: SLOP } }),
    // A list that goes on scrolling would carry what is moved past where it was told to be.
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates, scrollBehavior: 'auto' }),
  );
  const change = (label: string, how: (project: ProjectDocument) => ProjectDocument): void =>
    void dispatch(rearrange(label, how));
  const ids = all.map(({ id }) => id);
  const place = (id: string | number): string => `${ids.indexOf(String(id)) + 1} of ${ids.length}`;
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    const by = over ? ids.indexOf(String(over.id)) - ids.indexOf(String(active.id)) : 0;
    if (by !== 0) change(`reorder ${noun}s`, (project) => list.move(project, owner, String(active.id), by));
  };
  return (
    <View role="group" aria-label={`${noun === 'exposure' ? 'Exposures' : 'Effects'}: ${name}`} className="gap-1.5">
      <Text className="font-medium text-[13px] text-quiet">{`${noun === 'exposure' ? 'Exposures' : 'Effects'} · ${name}`}</Text>
      {all.length === 0 ? <Text className="font-sans text-[13px] text-quiet">{empty}</Text> : null}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={onDragEnd}
        accessibility={{ announcements: moves(noun, place), screenReaderInstructions: instructions }}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          {all.map((one) => (
            <OwnedRow
              key={one.id}
              id={one.id}
              off={!!one.off}
              words={words(one)}
              told={told(one)}
              alone={all.length === 1}
              onOpen={() => trial === null && onOpen(one)}
              onSwitch={() =>
                change(one.off ? `switch an ${noun} on` : `switch an ${noun} off`, (project) => {
                  const { off, ...rest } = one;
                  return list.put(project, owner, (off ? rest : { ...rest, off: true }) as T);
                })
              }
              onRemove={() => change(`remove an ${noun}`, (project) => list.remove(project, owner, one.id))}
            />
          ))}
        </SortableContext>
      </DndContext>
    </View>
  );
}
