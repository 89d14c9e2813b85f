import { keptText, LONGEST_NAME, type ProjectSummary } from '@hastig/contract';

/** A name for a copy that none of the projects has. */
export function copyName(name: string, projects: readonly Pick<ProjectSummary, 'name'>[]): string {
  const taken = new Set(projects.map((one) => one.name));
  const [stem, count] = /^(.*) \((\d+)\)$/.exec(name)?.slice(1) ?? [name, '1'];
  for (let number = Number(count) + 1; ; number++) {
    const end = ` (${number})`;
    const tried = `${keptText(stem!, LONGEST_NAME - end.length)}${end}`;
    if (!taken.has(tried)) return tried;
  }
}
