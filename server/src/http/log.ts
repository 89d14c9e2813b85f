/** Milliseconds in which the same fault is written once. */
const QUIET = 10_000;

const told = new Map<string, { until: number; times: number }>();

/**
 * Writes a fault to the log. The same one again within ten seconds is only counted, so that a database that is away does
 * not fill the disk.
 */
export function logFault(where: string, error: unknown, now = Date.now()): void {
  const reason = error instanceof Error ? `${error.name}: ${error.message}` : String(error);
  const known = told.get(reason);
  if (known && now < known.until) {
    known.times++;
    return;
  }
  if (known && known.times > 0) console.error(`(${known.times} times more) ${reason}`);
  told.set(reason, { until: now + QUIET, times: 0 });
  for (const [key, { until }] of told) if (now >= until) told.delete(key);
  console.error(`${where}:`, error);
}
