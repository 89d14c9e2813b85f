import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { ExposureStep } from '@hastig/contract';
import Eye from 'lucide-react-native/icons/eye';
import EyeOff from 'lucide-react-native/icons/eye-off';
import GripVertical from 'lucide-react-native/icons/grip-vertical';
import Trash from 'lucide-react-native/icons/trash';
import { Pressable, Text } from 'react-native';
import { conditionWords, stepWords } from '../../exposure/exposure-words';
import { IconButton } from '../../ui/button';
import { Icon } from '../../ui/icon';

interface StepRowProps {
  step: ExposureStep;
  /** Where it holds, in words. */
  where: string;
  /** Milliseconds that a picture of it took here, where one was made. */
  cost: number | undefined;
  /** The only one of its list: there is no order to change. */
  alone: boolean;
  onOpen(): void;
  onSwitch(): void;
  onRemove(): void;
}

/** A line about one exposure: its place in the order, its switch, what it does and where, and its end. */
export function StepRow({ step, where, cost, alone, onOpen, onSwitch, onRemove }: StepRowProps) {
  const words = stepWords(step);
  const costs = cost === undefined ? undefined : `${Math.max(1, Math.round(cost))} ms`;
  const told = [where, conditionWords(step), costs].filter(Boolean).join(' · ');
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: step.id,
    disabled: alone,
  });
  const moved = { transform: CSS.Translate.toString(transform), transition, zIndex: isDragging ? 1 : 0 };
  return (
    <div
      ref={setNodeRef}
      className="rounded-lg border border-line bg-raised"
      style={{ ...moved, display: 'flex', alignItems: 'center', position: 'relative', padding: '0 4px' }}
    >
      {alone ? null : (
        <button
          ref={setActivatorNodeRef}
          type="button"
          {...attributes}
          {...listeners}
          aria-label={`Reorder: ${words}`}
          className="rounded-lg"
          style={{ height: 44, width: 36, display: 'grid', placeItems: 'center', touchAction: 'none', cursor: 'grab' }}
        >
          <Icon of={GripVertical} tone="quiet" />
        </button>
      )}
      <IconButton
        narrow
        label={step.off ? `Switch on: ${words}` : `Switch off: ${words}`}
        icon={step.off ? EyeOff : Eye}
        pressed={!step.off}
        onPress={onSwitch}
      />
      <Pressable
        role="button"
        accessibilityLabel={`${words}, ${told}. Edit`}
        onPress={onOpen}
        className={`min-h-[52px] min-w-0 flex-1 justify-center rounded-lg px-1.5 hover:bg-line ${step.off ? 'opacity-50' : ''}`}
      >
        <Text numberOfLines={2} className="font-medium text-[15px] text-bone">
          {words}
        </Text>
        <Text numberOfLines={1} className="font-sans text-[13px] text-quiet">
          {told}
        </Text>
      </Pressable>
      <IconButton narrow label={`Remove: ${words}`} icon={Trash} onPress={onRemove} />
    </div>
  );
}
