import Minus from 'lucide-react-native/icons/minus';
import Plus from 'lucide-react-native/icons/plus';
import { Pressable } from 'react-native';
import { Icon } from './icon';

/** Steps a number that stands beside it, leaving the focus where it is. */
export function StepButton({ of, by, onStep }: { of: string; by: 1 | -1; onStep(by: 1 | -1): void }) {
  return (
    <Pressable
      role="button"
      accessibilityLabel={by > 0 ? `${of}: more` : `${of}: less`}
      onPress={() => onStep(by)}
      {...{ onMouseDown: (event: { preventDefault(): void }) => event.preventDefault() }}
      className="h-11 w-10 flex-none items-center justify-center rounded-lg border border-line bg-ink hover:bg-line active:opacity-70"
    >
      <Icon of={by > 0 ? Plus : Minus} size={16} />
    </Pressable>
  );
}
