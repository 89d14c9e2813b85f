import { useRouter } from 'expo-router';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { IconButton } from '../../ui/button';
import { Page } from '../../ui/page';

/** The licences of the program and of what ships with it. */
export function NoticesPlace() {
  const router = useRouter();
  const [text, setText] = useState('…');
  useEffect(() => {
    fetch('/notices.txt')
      .then((answer) => (answer.ok ? answer.text() : Promise.reject(new Error(String(answer.status)))))
      .then(setText, () => setText('The notices can’t be read: the server isn’t answering. Try again in a moment.'));
  }, []);
  return (
    <View className="flex-1 bg-ink">
      <View role="banner" className="h-12 flex-none flex-row items-center border-b border-line px-1">
        <IconButton
          label="Back"
          icon={ChevronLeft}
          onPress={() => (router.canGoBack() ? router.back() : router.replace('/'))}
        />
        <Text role="heading" aria-level={1} className="font-medium text-[15px] text-bone">
          Notices
        </Text>
      </View>
      <Page>
        <pre className="notices">{text}</pre>
      </Page>
    </View>
  );
}
