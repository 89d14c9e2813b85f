import { createContext, useContext, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { View } from 'react-native';

/** Where a place may show something at the right of a wide screen; nothing on a phone. */
export interface SidePlaces {
  /** Beside the picture. */
  beside: HTMLElement | null;
  /** Beside picture and place, from top to bottom. */
  column: HTMLElement | null;
}

export const SideContext = createContext<SidePlaces>({ beside: null, column: null });

/** Shows something at the right of a wide screen; `tall` things take the whole height. */
export function Side({ tall = false, children }: { tall?: boolean; children: ReactNode }) {
  const { beside, column } = useContext(SideContext);
  const place = tall ? column : beside;
  if (!place) return null;
  return createPortal(<View className="min-h-0 w-[430px] border-l border-line bg-raised">{children}</View>, place);
}
