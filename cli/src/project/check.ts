import { checkFilm, findClip, findingWords, formatTimecode } from '@hastig/core';
import { openProject } from './open';

/** What may be wrong with a film before it goes out, a line each: where, of which clip, what. Throws CommandFailed. */
export async function checkLines(path: string): Promise<string[]> {
  const { document, held } = await openProject(path);
  const { rate, startFrame } = document.sequence;
  const missing = document.sources
    .filter(({ sha256 }) => !held.has(sha256))
    .map(({ name }) => `-\t${name}\tIts file is missing from the archive`);
  const findings = [...checkFilm(document)].flat().map((finding) => {
    const clip = finding.clipId === undefined ? undefined : findClip(document, finding.clipId);
    const at = formatTimecode(Math.floor(finding.from) + startFrame, rate);
    return [at, clip?.name ?? '-', findingWords(finding)].join('\t');
  });
  return [...missing, ...findings];
}
