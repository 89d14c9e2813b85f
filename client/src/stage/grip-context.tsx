import type { Point } from '@hastig/core';
import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';

/** Something on the stage's picture that can be taken hold of. All measures are shares of the picture's width and height. */
export interface StageGrip {
  label: string;
  /** What lies under it is shown larger, beside the finger, while it is dragged. */
  loupe?: boolean;
  /** Its outline, corner by corner. */
  corners: readonly Point[];
  /** Outlines that are shown beside it and can't be taken hold of, each with a word. */
  beside?: readonly { word: string; corners: readonly Point[] }[];
  /** Begins a move or a change of size; what follows is counted from here. */
  hold(): void;
  /** Where it is dragged to; it may come to rest at a place nearby, unless that is held off. */
  drag(x: number, y: number, free: boolean): void;
  /** Moves it by exactly so much. */
  step(x: number, y: number): void;
  /** By how much larger it gets. */
  scale(factor: number): void;
}

interface GripPlace {
  grip: StageGrip | null;
  setGrip(grip: StageGrip | null): void;
}

const GripContext = createContext<GripPlace>({ grip: null, setGrip: () => undefined });

/** Lets a sheet put a grip on the stage. */
export function GripProvider({ children }: { children: ReactNode }) {
  const [grip, setGrip] = useState<StageGrip | null>(null);
  return <GripContext value={{ grip, setGrip }}>{children}</GripContext>;
}

export function useStageGrip(): StageGrip | null {
  return useContext(GripContext).grip;
}

/** Puts a grip on the stage for as long as whoever calls this is there. */
export function usePutGrip(grip: StageGrip | null): void {
  const { setGrip } = useContext(GripContext);
  useEffect(() => setGrip(grip), [setGrip, grip]);
  useEffect(() => () => setGrip(null), [setGrip]);
}
