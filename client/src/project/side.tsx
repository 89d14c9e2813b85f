import { createContext, useContext, useEffect, useLayoutEffect, useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { View } from 'react-native';
import { useAppDispatch } from '../store/hooks';
import { fullScreenSet } from '../store/session-slice';
import { useWide } from '../ui/use-wide';

/** Where a place may show something outside itself. They stay the same elements while the window changes its size. */
interface SidePlaces {
  /** Beside the picture on a wide screen; not seen on a phone. */
  beside: HTMLElement | null;
  /** Beneath the place on a phone; on a wide screen beside picture and place, from top to bottom. */
  sheet: HTMLElement | null;
}

export const SideContext = createContext<SidePlaces>({ beside: null, sheet: null });

/** The side of a wide screen: wide enough for a line of the ledger, wider where there is room. */
const SIDE = 'min-h-0 w-[clamp(490px,34vw,620px)] flex-1';

/** Shows a place's sheet: beneath it on a phone, at the right of a wide screen. */
export function SheetSide({ children }: { children: ReactNode }) {
  const { sheet } = useContext(SideContext);
  const wide = useWide();
  const dispatch = useAppDispatch();
  // What opens a sheet wants it seen.
  useEffect(() => void dispatch(fullScreenSet(false)), [dispatch]);
  if (!sheet) return null;
  return createPortal(
    <View className={wide ? `${SIDE} border-l border-line bg-raised` : 'min-h-0 flex-1 border-t border-line'}>
      {children}
    </View>,
    sheet,
  );
}

/**
 * Shows something beside the picture on a wide screen, and on a phone where this stands. It is the same one in both, with all
 * that was scrolled and typed.
 */
export function Beside({ shown, children }: { shown: boolean; children: ReactNode }) {
  const { beside } = useContext(SideContext);
  const wide = useWide();
  const [own, setOwn] = useState<HTMLElement | null>(null);
  const [box] = useState(() => {
    const made = document.createElement('div');
    made.style.cssText = 'display:flex;flex-direction:column;flex:1;min-height:0;min-width:0';
    return made;
  });
  const home = wide ? beside : own;
  useLayoutEffect(() => {
    if (home && box.parentElement !== home) home.append(box);
    return () => box.remove();
  }, [home, box]);
  return (
    <>
      <div ref={setOwn} style={{ display: !wide && shown ? 'flex' : 'none', flex: 1, minHeight: 0 }} />
      {shown
        ? createPortal(
            <View className={wide ? `${SIDE} border-l border-line bg-raised` : 'min-h-0 flex-1'}>{children}</View>,
            box,
          )
        : null}
    </>
  );
}
