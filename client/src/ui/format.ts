const UNITS = ['B', 'kB', 'MB', 'GB', 'TB'];

/** A size in bytes for people, by powers of 1000 as disks are sold. */
export function formatBytes(bytes: number): string {
  const power = Math.min(UNITS.length - 1, Math.floor(Math.log10(Math.max(1, bytes)) / 3));
  const value = bytes / 1000 ** power;
  return `${value.toFixed(power === 0 || value >= 100 ? 0 : 1)} ${UNITS[power]}`;
}
