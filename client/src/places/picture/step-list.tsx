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
import type { ExposureStep, ProjectDocument } from '@hastig/contract';
import { moveExposure, putExposure, removeExposure, type ExposureOwner } from '@hastig/core';
import { Text, View } from 'react-native';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useSession } from '../../store/hooks';
import { StepRow } from './step-row';

/** Pixels a handle is moved before its row is dragged. */
const SLOP = 4;

interface StepListProps {
  name: string;
  steps: readonly ExposureStep[];
  owner: ExposureOwner;
  empty: string;
  where(step: ExposureStep): string;
  /** Milliseconds that a picture of this exposure took here, where one was made. */
  cost(step: ExposureStep): number | undefined;
  onOpen(step: string): void;
}

const instructions = {
  draggable:
    'Press space to pick it up, the arrow keys to move it, space to put it down, escape to leave it where it was.',
};

/** What is said while a row is moved, by its place in the list. */
const told = (place: (id: string | number) => string): Announcements => ({
  onDragStart: ({ active }) => `Picked up exposure ${place(active.id)}.`,
  onDragOver: ({ over }) => (over ? `Now at ${place(over.id)}.` : undefined),
  onDragEnd: ({ over }) => (over ? `Put at ${place(over.id)}.` : 'Put back.'),
  onDragCancel: () => 'Put back.',
});

/** The exposures of a clip or of the film, in order: what is further down counts over what is above it. */
export function StepList({ name, steps, owner, empty, where, cost, onOpen }: StepListProps) {
  const dispatch = useAppDispatch();
  const { trial } = useSession('trial');
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: SLOP } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const change = (label: string, how: (project: ProjectDocument) => ProjectDocument): void =>
    void dispatch(rearrange(label, how));
  const ids = steps.map(({ id }) => id);
  const place = (id: string | number): string => `${ids.indexOf(String(id)) + 1} of ${ids.length}`;
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    const by = over ? ids.indexOf(String(over.id)) - ids.indexOf(String(active.id)) : 0;
    if (by !== 0) change('reorder exposures', (project) => moveExposure(project, owner, String(active.id), by));
  };
  return (
    <View role="group" aria-label={`Exposures: ${name}`} className="gap-1.5">
      <Text className="font-medium text-[13px] text-quiet">{name}</Text>
      {steps.length === 0 ? <Text className="font-sans text-[13px] text-quiet">{empty}</Text> : null}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={onDragEnd}
        accessibility={{ announcements: told(place), screenReaderInstructions: instructions }}
      >
        <SortableContext items={ids} strategy={verticalListSortingStrategy}>
          {steps.map((step) => (
            <StepRow
              key={step.id}
              step={step}
              where={where(step)}
              cost={cost(step)}
              alone={steps.length === 1}
              onOpen={() => trial === null && onOpen(step.id)}
              onSwitch={() =>
                change(step.off ? 'switch an exposure on' : 'switch an exposure off', (project) => {
                  const { off, ...rest } = step;
                  return putExposure(project, owner, off ? rest : { ...rest, off: true });
                })
              }
              onRemove={() => change('remove an exposure', (project) => removeExposure(project, owner, step.id))}
            />
          ))}
        </SortableContext>
      </DndContext>
    </View>
  );
}
