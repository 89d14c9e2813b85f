import { usePathname, useRouter, type Href } from 'expo-router';
import type { LucideIcon } from 'lucide-react-native';
import Clapperboard from 'lucide-react-native/icons/clapperboard';
import Gauge from 'lucide-react-native/icons/gauge';
import { Pressable, Text, View } from 'react-native';
import { Icon } from '../ui/icon';

const places: readonly { name: string; path: string; icon: LucideIcon }[] = [
  { name: 'Pace', path: 'pace', icon: Gauge },
  { name: 'Output', path: 'output', icon: Clapperboard },
];

/** The places of a project: along the bottom on a phone, along the left side on a wide screen. */
export function PlaceBar({ base, rail }: { base: string; rail: boolean }) {
  const router = useRouter();
  const here = usePathname();
  return (
    <View
      role="navigation"
      aria-label="Places"
      className={
        rail
          ? 'w-[76px] flex-none gap-1 border-r border-line bg-raised py-2'
          : 'flex-none flex-row border-t border-line bg-raised'
      }
    >
      {places.map(({ name, path, icon }) => {
        const current = here.endsWith(`/${path}`);
        return (
          <Pressable
            key={path}
            role="link"
            accessibilityLabel={name}
            aria-current={current ? 'page' : undefined}
            onPress={() => router.navigate(`${base}/${path}` as Href)}
            className={`min-h-[52px] items-center justify-center gap-1 hover:bg-line ${rail ? '' : 'flex-1'}`}
          >
            <Icon of={icon} tone={current ? 'bone' : 'quiet'} />
            <Text className={`text-[12px] ${current ? 'font-medium text-bone' : 'font-sans text-quiet'}`}>{name}</Text>
          </Pressable>
        );
      })}
    </View>
  );
}
