import type { ProjectSummary } from '@hastig/contract';

/** From so many projects on they are searched and sorted. */
export const MANY = 10;

export const projectOrders = ['changed', 'name', 'length', 'size'] as const;
export type ProjectOrder = (typeof projectOrders)[number];

const byOrder: Record<ProjectOrder, (a: ProjectSummary, b: ProjectSummary) => number> = {
  changed: (a, b) => b.updatedAt.localeCompare(a.updatedAt),
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true, sensitivity: 'base' }),
  length: (a, b) => b.seconds - a.seconds,
  size: (a, b) => b.bytes - a.bytes,
};

/** The projects whose names have all the words that are sought, in an order. */
export function listedProjects(
  projects: readonly ProjectSummary[],
  sought: string,
  order: ProjectOrder,
): ProjectSummary[] {
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
  return projects.filter(({ name }) => words.every((word) => name.toLowerCase().includes(word))).sort(byOrder[order]);
}

/** A length for people: `7.9 s`, `1:05`, `1:30:00`. */
export function lengthWords(seconds: number): string {
  if (seconds < 60) return `${seconds.toFixed(1)} s`;
  const whole = Math.round(seconds);
  const [hours, minutes, rest] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const two = (number: number): string => String(number).padStart(2, '0');
  return hours > 0 ? `${hours}:${two(minutes)}:${two(rest)}` : `${minutes}:${two(rest)}`;
}
