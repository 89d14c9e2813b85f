import X from 'lucide-react-native/icons/x';
import { Text, View } from 'react-native';
import { IconButton } from './button';

/** Something to know: what went wrong, needs an answer, until it is dismissed. */
export function Notice({
  text,
  onDismiss,
  calm = false,
  children,
}: {
  text: string;
  onDismiss?: () => void;
  /** Nothing is wrong. */
  calm?: boolean;
  children?: React.ReactNode;
}) {
  return (
    <View
      role={calm ? 'status' : 'alert'}
      className={`gap-2 border-b bg-raised px-4 py-2 ${calm ? 'border-line' : 'border-wrong'}`}
    >
      <View className="flex-row items-center gap-2">
        <Text className="flex-1 font-sans text-[14px] text-bone">{text}</Text>
        {onDismiss ? <IconButton label="Dismiss" icon={X} onPress={onDismiss} /> : null}
      </View>
      {children ? <View className="flex-row flex-wrap gap-2">{children}</View> : null}
    </View>
  );
}
