import X from 'lucide-react-native/icons/x';
import { Text, View } from 'react-native';
import { IconButton } from './button';

/** Something that went wrong or needs an answer, until it is dismissed. */
export function Notice({
  text,
  onDismiss,
  children,
}: {
  text: string;
  onDismiss?: () => void;
  children?: React.ReactNode;
}) {
  return (
    <View role="alert" className="gap-2 border-b border-wrong bg-raised px-4 py-2">
      <View className="flex-row items-center gap-2">
        <Text className="flex-1 font-sans text-[14px] text-bone">{text}</Text>
        {onDismiss ? <IconButton label="Dismiss" icon={X} onPress={onDismiss} /> : null}
      </View>
      {children ? <View className="flex-row flex-wrap gap-2">{children}</View> : null}
    </View>
  );
}
