import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import Eye from 'lucide-react-native/icons/eye';
import EyeOff from 'lucide-react-native/icons/eye-off';
import GripVertical from 'lucide-react-native/icons/grip-vertical';
import Trash from 'lucide-react-native/icons/trash';
import { Pressable, Text } from 'react-native';
import { IconButton } from '../../ui/button';
import { Icon } from '../../ui/icon';

interface OwnedRowProps {
  id: string;
  off: boolean;
  /** What it does, in words. */
  words: string;
  /** Where and when, and what it costs. */
  told: string;
  /** The only one of its list: there is no order to change. */
  alone: boolean;
  onOpen(): void;
  onSwitch(): void;
  onRemove(): void;
}

/** A line about one exposure or effect: its place in the order, its switch, what it does and where, and its end. */
export function OwnedRow({ id, off, words, told, alone, onOpen, onSwitch, onRemove }: OwnedRowProps) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id,
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
        label={off ? `Switch on: ${words}` : `Switch off: ${words}`}
        icon={off ? EyeOff : Eye}
        pressed={!off}
        onPress={onSwitch}
      />
      <Pressable
        role="button"
        accessibilityLabel={`${words}, ${told}. Edit`}
        onPress={onOpen}
        className={`min-h-[52px] min-w-0 flex-1 justify-center rounded-lg px-1.5 hover:bg-line ${off ? 'opacity-50' : ''}`}
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
