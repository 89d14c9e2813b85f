import { usePathname, useRouter, type Href } from 'expo-router';
import type { LucideIcon } from 'lucide-react-native';
import Aperture from 'lucide-react-native/icons/aperture';
import AudioLines from 'lucide-react-native/icons/audio-lines';
import ChartNoAxesGantt from 'lucide-react-native/icons/chart-no-axes-gantt';
import Clapperboard from 'lucide-react-native/icons/clapperboard';
import Drum from 'lucide-react-native/icons/drum';
import Gauge from 'lucide-react-native/icons/gauge';
import { Pressable, Text, View } from 'react-native';
import { Icon } from '../ui/icon';

type PlaceName = 'timeline' | 'beats' | 'pace' | 'picture' | 'sound' | 'output';

const places: readonly { name: PlaceName; label: string; icon: LucideIcon; here: RegExp }[] = [
  { name: 'timeline', label: 'Timeline', icon: ChartNoAxesGantt, here: /\/(timeline|group\/[^/]+)$/ },
  { name: 'beats', label: 'Beats', icon: Drum, here: /\/beats$/ },
  { name: 'pace', label: 'Pace', icon: Gauge, here: /\/pace$/ },
  { name: 'picture', label: 'Picture', icon: Aperture, here: /\/picture$/ },
  { name: 'sound', label: 'Sound', icon: AudioLines, here: /\/sound$/ },
  { name: 'output', label: 'Output', icon: Clapperboard, here: /\/(output|compare)$/ },
];

/**
 * The places of a project: along the bottom on a phone, along the left side on a wide screen.
 *
 * @param addresses of each place; undefined where there is nothing yet that it could be about
 */
export function PlaceBar({
  addresses,
  rail,
}: {
  addresses: Readonly<Record<PlaceName, string | undefined>>;
  rail: boolean;
}) {
  const router = useRouter();
  const path = usePathname();
  return (
    <View
      role="navigation"
      aria-label="Places"
      className={
        rail
          ? 'w-[76px] flex-1 gap-0.5 border-r border-line bg-raised py-1'
          : 'flex-none flex-row border-t border-line bg-raised'
      }
    >
      {places.map(({ name, label, icon, here }) => {
        const current = here.test(path);
        const address = addresses[name];
        return (
          <Pressable
            key={name}
            role="link"
            accessibilityLabel={label}
            aria-current={current ? 'page' : undefined}
            disabled={!address}
            onPress={() => address && router.navigate(address as Href)}
            className={`min-h-[52px] items-center justify-center gap-1 hover:bg-line ${rail ? '' : 'flex-1'} ${address ? '' : 'opacity-35'}`}
          >
            <Icon of={icon} tone={current ? 'bone' : 'quiet'} />
            <Text className={`text-[12px] ${current ? 'font-medium text-bone' : 'font-sans text-quiet'}`}>{label}</Text>
          </Pressable>
        );
      })}
    </View>
  );
}
