import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

/**
 * Memory of each Chromium process this process started, in bytes: their proportional set size, which counts what several
 * share once (proc(5), smaps_rollup).
 */
function sizes(): number[] {
  const rows = execFileSync('ps', ['-eo', 'pid,ppid,comm'], { encoding: 'utf8' }).trim().split('\n').slice(1);
  const processes = rows.map((row) => row.trim().split(/\s+/)).map(([pid, parent, name]) => ({ pid, parent, name }));
  const ours = new Set([String(process.pid)]);
  for (let grown = true; grown;) {
    grown = false;
    for (const { pid, parent } of processes) {
      if (ours.has(parent!) && !ours.has(pid!)) grown = !!ours.add(pid!);
    }
  }
  return processes
    .filter(({ pid, name }) => ours.has(pid!) && name!.startsWith('chrom'))
    .map(({ pid }) => proportionalSize(pid!));
}

function proportionalSize(pid: string): number {
  try {
    const kilobytes = /^Pss:\s+(\d+)/m.exec(readFileSync(`/proc/${pid}/smaps_rollup`, 'utf8'))?.[1];
    return Number(kilobytes ?? 0) * 1024;
  } catch {
    // It ended since it was listed.
    return 0;
  }
}

/** Memory of all of the browser, in bytes. */
export const browserMemory = (): number => sizes().reduce((sum, size) => sum + size, 0);

/** Memory of the largest of its processes, in bytes: that of the page, where there is one that works. */
export const pageMemory = (): number => Math.max(0, ...sizes());
