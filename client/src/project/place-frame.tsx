import type { ReactNode } from 'react';
import { View } from 'react-native';
import { useArrangement } from '../ui/use-wide';
import { SheetSide } from './side';

interface PlaceFrameProps {
  /** Its bar of commands: where there is no room beside an open sheet it gives way. */
  bar: ReactNode;
  /** The sheet that is open. */
  sheet: ReactNode;
  children: ReactNode;
}

/** A place with its bar of commands, beneath it or at its side on a turned phone, and its sheet. The elements stay the same ones. */
export function PlaceFrame({ bar, sheet, children }: PlaceFrameProps) {
  const arrangement = useArrangement();
  return (
    <View className={`min-h-0 flex-1 ${arrangement === 'turned' ? 'flex-row' : 'flex-col'}`}>
      <View className="min-h-0 min-w-0 flex-1">
        {children}
        {sheet ? <SheetSide>{sheet}</SheetSide> : null}
      </View>
      {arrangement === 'wide' || !sheet ? bar : null}
    </View>
  );
}
