import X from 'lucide-react-native/icons/x';
import type { ReactNode, Ref } from 'react';
import { ScrollView, Text, View } from 'react-native';
import { IconButton } from './button';
import { Divider } from './divider';
import { IN_PLACE } from './tap-number';
import { useSheetFocus } from './use-sheet-focus';
import { useSheetHeight } from './use-sheet-height';
import { useArrangement, type Arrangement } from './use-wide';

/** How high a sheet becomes by its content; what it is about stays in sight. */
const byContent: Record<Arrangement, string> = {
  phone: 'max-h-[34vh]',
  turned: 'max-h-[58vh]',
  wide: 'min-h-0 flex-1',
};
/** Pixels of what a sheet is pulled by. */
const GRIP = 20;

interface SheetFrameProps {
  title: string;
  onClose(): void;
  /** For a form that is filled in: what Enter does in its entries. */
  onEnter?: () => void;
  /** What closing is called. */
  closing?: string;
  children: ReactNode;
  /** Beneath what scrolls. */
  foot?: ReactNode;
  /** Nothing in it takes the keyboard, so what scrolls does. */
  toRead?: boolean;
}

interface SheetKey {
  key: string;
  target: EventTarget;
  preventDefault(): void;
  stopPropagation(): void;
}

/** A sheet: from the bottom on a phone, at the side on a wide screen. */
export function SheetFrame({
  title,
  onClose,
  onEnter,
  closing = 'Close',
  children,
  foot,
  toRead = false,
}: SheetFrameProps) {
  const arrangement = useArrangement();
  const sheet = useSheetFocus(onEnter !== undefined);
  const wide = arrangement === 'wide';
  const { height, style, ...grip } = useSheetHeight(sheet, arrangement);
  const down = !wide && height === 'peek';
  // Entries keep their keys to themselves; these are meant for the sheet.
  const keys: Record<string, (() => void) | undefined> = { Escape: onClose, Enter: onEnter };
  const fromEntry = (event: SheetKey): void => {
    const { key, target } = event;
    const meant = keys[key];
    if (!meant || !(target instanceof HTMLInputElement) || IN_PLACE in target.dataset) return;
    event.preventDefault();
    event.stopPropagation();
    meant();
  };
  return (
    <View
      ref={sheet as Ref<never>}
      role="dialog"
      aria-label={title}
      tabIndex={-1}
      {...{ onKeyDownCapture: fromEntry, dataSet: { sheet: height } }}
      style={wide ? undefined : style}
      className={`bg-raised ${wide || height === 'content' ? byContent[arrangement] : height === 'full' ? 'min-h-0 flex-1' : ''}`}
    >
      {wide ? null : (
        <Divider
          label="Resize sheet"
          upright={false}
          thickness={GRIP}
          value={grip.value}
          length={grip.length}
          onMove={grip.move}
          onToggle={grip.toggle}
        />
      )}
      <View className="flex-row items-center justify-between pl-4 pr-1">
        <Text
          role="heading"
          aria-level={2}
          numberOfLines={1}
          className="min-w-0 flex-1 font-medium text-[16px] text-bone"
        >
          {title}
        </Text>
        <IconButton label={closing} icon={X} onPress={onClose} />
      </View>
      {/* Not taken away while the sheet is down, so that what was typed stays. */}
      <ScrollView
        style={down && { display: 'none' }}
        {...(toRead && { tabIndex: 0 })}
        contentContainerClassName="gap-3 px-4 pb-3"
      >
        {children}
      </ScrollView>
      {down ? null : foot}
    </View>
  );
}
