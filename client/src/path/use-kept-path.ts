import { useEffect } from 'react';
import { useAppSelector } from '../store/hooks';
import { keepPath, type KeptPath } from './kept';

/** The path through the demo; what becomes of it is remembered at once, wherever it is shown. */
export function useKeptPath(): KeptPath {
  const path = useAppSelector((state) => state.path);
  useEffect(() => keepPath(path), [path]);
  return path;
}
