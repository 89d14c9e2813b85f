import { basename, extname } from 'node:path';

/** Gives each of several files a name that none before it got: `drop`, `drop 2`, `drop 3`. */
export function freeNames(): (name: string) => string {
  const taken = new Set<string>();
  return (name) => {
    let free = name;
    for (let number = 2; taken.has(free); number++) free = `${name} ${number}`;
    taken.add(free);
    return free;
  };
}

/** A file's name without folder and ending. */
export const stemOf = (path: string): string => basename(path, extname(path));
