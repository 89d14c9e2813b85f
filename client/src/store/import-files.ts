import type { Rate } from '@hastig/contract';
import { addSource, fileCountOf, sameRate } from '@hastig/core';
import { archiveParts, numberedRuns, silentWords, type NumberedRun } from '@hastig/engine';
import { nanoid } from '@reduxjs/toolkit';
import { uploadFile } from './upload-file';
import { rearrange } from './edit';
import { noticeSet } from './session-slice';
import type { AppThunk } from './store';

/** Stills that were numbered one after the other. */
export type StillsRun = NumberedRun<File>;

const STILL = /\.(png|jpe?g|webp|avif)$/i;

/** Finds numbered stills among files that come in together. */
export function stillsAmong(files: readonly File[]): { runs: StillsRun[]; others: File[] } {
  const { runs, others } = numberedRuns(files.filter(({ name }) => STILL.test(name)));
  return { runs, others: [...files.filter(({ name }) => !STILL.test(name)), ...others] };
}

/** Imports files into the open project, each as a source, and where the project lays what comes in with a clip of its own. */
export function importFiles(files: readonly File[]): AppThunk<Promise<void>> {
  return async (dispatch) => {
    // One after the other: two uploads at once are not faster, and the first is usable sooner.
    for (const file of files) await dispatch(importFile(file, file.name));
  };
}

/** What numbered stills are called as one: `IMG_0001–0240`. */
export function runName({ items }: StillsRun): string {
  const stem = (name: string): string => name.replace(/\.[^.]+$/, '');
  const [first, last] = [items[0]!.item, items.at(-1)!.item].map(({ name }) => stem(name)) as [string, string];
  return `${first}–${/\d+$/.exec(last)![0]}`;
}

/** Imports numbered stills as one source, each shown for one frame at a rate. */
export function importStills(run: StillsRun, rate: Rate): AppThunk<Promise<void>> {
  const stills = run.items.map(({ item, number }) => ({ name: item.name, number, bytes: item.size, content: item }));
  // Put together of the files as they lie on the disk; nothing of them is read here. With the time of the latest, so that the
  // same stills are known again when their upload is gone on with.
  const archive = new File(archiveParts(stills), `${runName(run)}.tar`, {
    type: 'application/x-tar',
    lastModified: Math.max(...run.items.map(({ item }) => item.lastModified)),
  });
  return importFile(archive, runName(run), rate);
}

function importFile(file: File, name: string, rate?: Rate): AppThunk<Promise<void>> {
  return (dispatch) =>
    dispatch(
      uploadFile(file, ({ sha256, facts }) => {
        const readAs = rate && !sameRate(rate, fileCountOf({ facts }).rate) ? { readAs: rate } : {};
        const source = { id: `source-${nanoid(10)}`, name, sha256, facts, ...readAs };
        const clipId = `clip-${nanoid(10)}`;
        dispatch(rearrange(`import ${name}`, (project) => addSource(project, source, clipId)));
        const silent = silentWords(facts.audio);
        if (silent) dispatch(noticeSet(`${name}: ${silent}`));
      }),
    );
}
