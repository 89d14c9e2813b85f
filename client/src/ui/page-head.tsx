import { useRouter } from 'expo-router';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import { Text, View } from 'react-native';
import { IconButton } from './button';

/** The head of a page outside of projects: what it is, and the way back to where one was. */
export function PageHead({ title }: { title: string }) {
  const router = useRouter();
  return (
    <View role="banner" className="h-12 flex-none flex-row items-center border-b border-line px-1">
      <IconButton
        label="Back"
        icon={ChevronLeft}
        onPress={() => (router.canGoBack() ? router.back() : router.replace('/'))}
      />
      <Text role="heading" aria-level={1} className="min-w-0 flex-1 font-medium text-[15px] text-bone">
        {title}
      </Text>
    </View>
  );
}
