import { join } from 'node:path';
import type { PartTask, TakenPart } from '@hastig/contract';
import { findClip } from '@hastig/core';
import type { RenderJob, RenderProgress } from '@hastig/engine';
import { locationOf } from '@hastig/engine/location';
import { clipOrder, filmOrder, jobOf } from '@hastig/engine/orders';
import type { Connection } from './connection';
import type { RenderPage } from './render-page';

/** What was made of a part. */
export interface MadePart {
  /** Undefined where there was nothing to write. */
  path: string | undefined;
  frames: number;
  took: number;
}

interface Rendering {
  connection: Connection;
  /** Paths of media, and of what is joined, as the page knows them. */
  files: Map<string, string>;
  page: RenderPage;
  /** Folder for what is made. */
  folder: string;
}

/** Renders a part. Throws RenderFailed, Refused. */
export async function renderPart(part: TakenPart, { connection, files, page, folder }: Rendering): Promise<MadePart> {
  const { document, clipId, form, span } = part.order!;
  const sources = Object.fromEntries(
    document.sources.map((source) => [source.id, locationOf(source, page.address(source.sha256))]),
  );
  const clip = clipId === undefined ? undefined : findClip(document, clipId)!;
  const of = clip ? clipOrder(document, clip, { sources }) : filmOrder(document, { sources });
  const job = jobOf(of, form, span);
  const path = join(folder, 'made');
  const inputs: Record<string, string> = {};
  if (part.task.do === 'join') {
    const { pictures, sound } = part.task;
    for (const input of [...pictures, ...(sound === null ? [] : [sound])]) {
      const fetched = join(folder, input);
      await connection.fetchTo(part, `inputs/${input}`, fetched);
      files.set(input, fetched);
      inputs[input] = page.address(input);
    }
  }
  const begun = performance.now();
  try {
    // Its name is what pictures in a ZIP are called.
    const { frames } = await page.render(taskJob(job, part.task, inputs), path, part.file);
    const made = part.task.do === 'pictures' ? part.task.to - part.task.from : part.task.do === 'whole' ? frames : 0;
    return { path, frames: made, took: (performance.now() - begun) / 1000 };
  } catch (error) {
    if ((error as { kind?: string }).kind !== 'NothingToHear') throw error;
    return { path: undefined, frames: 0, took: 0 };
  } finally {
    for (const input of Object.keys(inputs)) files.delete(input);
  }
}

type WholeJob = Omit<RenderJob, 'target'>;

function taskJob(job: WholeJob, task: PartTask, inputs: Readonly<Record<string, string>>): WholeJob {
  // Chapters and timecode are the whole file's.
  const { marks: _, ...part } = job;
  switch (task.do) {
    case 'pictures':
      return { ...part, only: { from: task.from, to: task.to } };
    case 'sound':
      return { ...part, only: 'sound' };
    case 'join': {
      const pictures = task.pictures.map((id) => inputs[id]!);
      return { ...job, parts: { pictures, ...(task.sound !== null && { sound: inputs[task.sound]! }) } };
    }
    default:
      return job;
  }
}

/** What the server is told of a render's progress; what is listened to first has no frames yet. */
export const heardOf = ({
  done,
  framesPerSecond,
  listening,
}: RenderProgress): { done: number; framesPerSecond: number } =>
  listening
    ? { done: 0, framesPerSecond: 0 }
    : { done, framesPerSecond: Number.isFinite(framesPerSecond) ? framesPerSecond : 0 };
