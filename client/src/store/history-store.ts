import { PROJECT_VERSION } from '@hastig/contract';
import { get, del } from 'idb-keyval';
import { browserDatabase, keysOf } from './browser-database';
import type { HistoryStep } from './project-slice';

/** The steps that can be undone and redone at a revision. */
interface KeptHistory {
  revision: number;
  past: HistoryStep[];
  future: HistoryStep[];
}

// Steps of an older version of documents do not apply to this one's.
const nameOf = (projectId: string): string => `${projectId} ${PROJECT_VERSION}`;

/** What was kept last, so that only what is new is written: histories of a long day have thousands of steps. */
const written = new Map<string, readonly HistoryStep[]>();

/** Keeps a project's history in this browser, so that undo reaches back past a reload. */
export async function keepHistory(projectId: string, { revision, past, future }: KeptHistory): Promise<void> {
  const project = nameOf(projectId);
  const steps = [...past, ...future.toReversed()];
  const before = written.get(project) ?? [];
  let same = 0;
  while (same < steps.length && steps[same] === before[same]) same++;
  try {
    const database = await browserDatabase();
    const transaction = database.transaction(['historyHeads', 'historySteps'], 'readwrite');
    const kept = transaction.objectStore('historySteps');
    if (same < before.length || same === 0) await kept.delete(IDBKeyRange.bound([project, same], [project, []]));
    for (let index = same; index < steps.length; index++) await kept.put(steps[index]!, [project, index]);
    await transaction.objectStore('historyHeads').put({ project, revision, done: past.length, steps: steps.length });
    await transaction.done;
    written.set(project, steps);
  } catch {
    // Without storage (a private window) undo ends at the reload; saving itself is not touched by that.
    written.delete(project);
  }
}

/** The kept history, if it belongs to this very revision. */
export async function recallHistory(projectId: string, revision: number): Promise<KeptHistory | undefined> {
  const project = nameOf(projectId);
  try {
    const database = await browserDatabase();
    const head = await database.get('historyHeads', project);
    if (!head) return await recallEarlier(projectId, revision);
    if (head.revision !== revision) return undefined;
    const steps = await database.getAll('historySteps', keysOf(project));
    if (steps.length !== head.steps) return undefined;
    written.set(project, steps);
    return { revision, past: steps.slice(0, head.done), future: steps.slice(head.done).reverse() };
  } catch {
    return undefined;
  }
}

interface EarlierStep extends Omit<HistoryStep, 'patches' | 'inverse'> {
  patches: { op: 'add' | 'remove' | 'replace'; path: (string | number)[]; value?: unknown }[];
  inverse: EarlierStep['patches'];
}

// Earlier, histories were kept whole under one key each, with paths as lists.
async function recallEarlier(projectId: string, revision: number): Promise<KeptHistory | undefined> {
  const key = `history-2:${projectId}`;
  const kept = await get<{ revision: number; past: EarlierStep[]; future: EarlierStep[] }>(key);
  if (!kept) return undefined;
  await del(key);
  if (kept.revision !== revision) return undefined;
  const converted = ({ label, patches, inverse }: EarlierStep): HistoryStep => ({
    label,
    patches: patches.map(withPointer),
    inverse: inverse.map(withPointer),
  });
  return { revision, past: kept.past.map(converted), future: kept.future.map(converted) };
}

const withPointer = ({ path, ...operation }: EarlierStep['patches'][number]) => ({
  ...operation,
  path: path.map((piece) => `/${String(piece).replace(/~/g, '~0').replace(/\//g, '~1')}`).join(''),
});
