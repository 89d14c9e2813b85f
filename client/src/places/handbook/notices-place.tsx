import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { Page } from '../../ui/page';
import { PageHead } from '../../ui/page-head';

/** The licences of the program and of what ships with it. */
export function NoticesPlace() {
  const [text, setText] = useState('…');
  useEffect(() => {
    fetch('/notices.txt')
      .then((answer) => (answer.ok ? answer.text() : Promise.reject(new Error(String(answer.status)))))
      .then(setText, () => setText('The notices can’t be read: the server isn’t answering. Try again in a moment.'));
  }, []);
  return (
    <View className="flex-1 bg-ink">
      <PageHead title="Notices" />
      <Page>
        <pre className="notices">{text}</pre>
      </Page>
    </View>
  );
}
