import type { ProjectSummary } from '@hastig/contract';
import type { MediaStore } from '../media/store';
import type { ListedProject } from './store';

/** The list of projects with what their files come to; each file is looked for once. */
export async function summaries(media: MediaStore, listed: readonly ListedProject[]): Promise<ProjectSummary[]> {
  const digests = [...new Set(listed.flatMap((project) => project.media))];
  const sizes = await media.sizes(digests);
  return listed.map(({ media: used, ...project }) => ({
    ...project,
    bytes: used.reduce((sum, sha256) => sum + (sizes.get(sha256) ?? 0), 0),
    missing: used.filter((sha256) => !sizes.has(sha256)).length,
  }));
}
