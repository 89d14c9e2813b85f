import { existsSync } from 'node:fs';

/** Bytes of memory that a tool may take. */
const MOST_MEMORY = 4 * 2 ** 30;

/** A tool with bounds: what a broken file makes it ask for ends it, not the machine. */
export const bounded = (tool: string, args: readonly string[]): [string, string[]] =>
  existsSync('/usr/bin/prlimit') ? ['/usr/bin/prlimit', [`--as=${MOST_MEMORY}`, tool, ...args]] : [tool, [...args]];
