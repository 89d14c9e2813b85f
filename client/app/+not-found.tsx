import { useRouter } from 'expo-router';
import { Button } from '../src/ui/button';
import { LostPage } from '../src/ui/lost-page';

/** An address that leads nowhere. */
export default function NotFound() {
  const router = useRouter();
  return (
    <LostPage title="There’s no page at this address" text="Check the link, or open a project from the list.">
      <Button label="All projects" kind="primary" onPress={() => router.replace('/')} />
    </LostPage>
  );
}
