import { pathSteps, type PathStart, type PathStep } from './steps';

const KEY = 'hastig-path';

/** The path through the demo as this browser remembers it. */
export interface KeptPath {
  /** The project it leads through; null before it was begun. */
  project: string | null;
  start: PathStart | null;
  done: PathStep[];
  /** Whether it is shown in its project. */
  open: boolean;
  /** Whether it was offered, and answered: it is not offered again. */
  answered: boolean;
}

export const noPath: KeptPath = { project: null, start: null, done: [], open: false, answered: false };

/** What is remembered; what can't be read is nothing. */
export function keptPath(): KeptPath {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? '') as Partial<KeptPath>;
    const done = (kept.done ?? []).filter((step) => pathSteps.includes(step));
    return { ...noPath, ...kept, done };
  } catch {
    return noPath;
  }
}

export function keepPath(path: KeptPath): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(path));
  } catch {
    // A private window forgets it with everything else.
  }
}
