import { RenderPage } from '@hastig/worker/render-page';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { ProjectDocument } from '@hastig/contract';
import { fileEnding, findSource, patternFault, presetFault, presetsOf, sourcesOf } from '@hastig/core';
import type { RenderProgress, RenderResult } from '@hastig/engine';
import { locationOf } from '@hastig/engine/location';
import { clipOrder, contentsOf, filmOrder, ordersFor, type OrderOf } from '@hastig/engine/orders';
import { CommandFailed } from '../fail';
import { freeNames } from '../free-names';
import { withProject } from './open';

interface ProjectRender {
  preset: string;
  out: string;
  /** What files are called, as in the form. */
  name: string;
  /** A file from each marker to the next, or one of all. */
  range: 'all' | 'markers';
  /** A clip by its name; the film unless told. */
  clip?: string;
  onProgress(progress: RenderProgress): void;
  onFile(path: string, result: RenderResult, rate: OrderOf['program']['rate']): void;
}

/** Renders what an archive holds by one of its presets, as the interface would. Throws CommandFailed and RenderFailed. */
export function renderProject(path: string, options: ProjectRender): Promise<void> {
  const fault = patternFault(options.name);
  if (fault) throw new CommandFailed(`the file name ${fault} (--name)`);
  return withProject(path, async ({ document, media }) => {
    const preset = presetsOf(document).find(({ name }) => name.toLowerCase() === options.preset.toLowerCase());
    if (!preset)
      throw new CommandFailed(`there is no preset ${options.preset}; there are ${presetsOf(document).map(({ name }) => name).join(', ')} (--preset)`); // prettier-ignore
    const page = await RenderPage.open(media, options.onProgress);
    try {
      const sources = Object.fromEntries(
        document.sources.map((source) => [source.id, locationOf(source, page.address(source.sha256))]),
      );
      const of = orderOf(document, options.clip, sources);
      const refused = presetFault(preset.form, contentsOf(document, of));
      if (refused) throw new CommandFailed(`${preset.name} can’t be used. ${refused}`);
      const lost = sourcesOf(of.program).filter((id) => !media.has(findSource(document, id)!.sha256));
      if (lost.length > 0)
        throw new CommandFailed(`${path} doesn’t have the media of ${lost.map((id) => findSource(document, id)!.name).join(', ')}: save the project with its media`); // prettier-ignore
      const orders = ordersFor(of, preset.form, options.range, options.name);
      if (orders.length === 0) throw new CommandFailed(nothingWords(options.range));
      await mkdir(options.out, { recursive: true });
      const free = freeNames();
      for (const { name, job } of orders) {
        const out = join(options.out, `${free(name)}.${fileEnding(preset.form.format)}`);
        options.onFile(out, await page.render(job, out), job.rate);
      }
    } finally {
      await page.close();
    }
  });
}

const nothingWords = (range: ProjectRender['range']): string =>
  range === 'markers' ? 'there are no markers to begin files at (--range)' : 'the timeline is empty';

function orderOf(document: ProjectDocument, name: string | undefined, sources: OrderOf['sources']): OrderOf {
  if (name === undefined) return filmOrder(document, { sources });
  const clip = document.clips.find((one) => one.name === name);
  if (!clip) throw new CommandFailed(`there is no clip ${name} (--clip)`);
  return clipOrder(document, clip, { sources });
}
