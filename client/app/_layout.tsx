import '../global.css';
import { SchibstedGrotesk_400Regular } from '@expo-google-fonts/schibsted-grotesk/400Regular';
import { SchibstedGrotesk_600SemiBold } from '@expo-google-fonts/schibsted-grotesk/600SemiBold';
import { SplineSansMono_400Regular } from '@expo-google-fonts/spline-sans-mono/400Regular';
import { SplineSansMono_600SemiBold } from '@expo-google-fonts/spline-sans-mono/600SemiBold';
import { useFonts } from 'expo-font';
import { Slot } from 'expo-router';
import Head from 'expo-router/head';
import { useEffect, useState } from 'react';
import { Provider } from 'react-redux';
import { startAutosave } from '../src/store/autosave';
import { startRehearsals } from '../src/store/rehearse';
import { sendUnsent } from '../src/store/send-unsent';
import { makeStore } from '../src/store/store';
import { watchInput } from '../src/ui/last-input';
import { MissingPage } from '../src/ui/missing-page';
import { missingParts } from '../src/ui/missing-parts';
import { primeDrawing } from '../src/ui/palette';
import { applyTheme, currentTheme } from '../src/ui/theme';

applyTheme(currentTheme());
watchInput();

export { BrokenPage as ErrorBoundary } from '../src/ui/broken-page';

/** As in `public/index.html`, until its letters are there. */
function Opening() {
  return (
    <div className="opening" role="status">
      Opening Hastig…
    </div>
  );
}

export default function RootLayout() {
  const [loaded] = useFonts({
    SchibstedGrotesk_400Regular,
    SchibstedGrotesk_600SemiBold,
    SplineSansMono_400Regular,
    SplineSansMono_600SemiBold,
  });
  const [store] = useState(() => {
    const made = makeStore();
    startAutosave(made.listeners);
    startRehearsals(made.listeners);
    return made.store;
  });
  useEffect(() => {
    if (loaded) primeDrawing();
  }, [loaded]);
  useEffect(() => void sendUnsent(), []);
  const [missing, setMissing] = useState<string[]>([]);
  useEffect(() => void missingParts().then(setMissing), []);
  if (!loaded) return <Opening />;
  if (missing.length > 0) return <MissingPage missing={missing} />;
  return (
    <Provider store={store}>
      <Head>
        <title>Hastig</title>
      </Head>
      <Slot />
    </Provider>
  );
}
