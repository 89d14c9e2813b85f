import 'fake-indexeddb/auto';
import type { PatchOperation, ProjectDocument } from '@hastig/contract';
import { storedProject } from '../../test/project';
import { api, Refused, Unreachable } from './api';
import { startAutosave } from './autosave';
import { applied } from './difference';
import { rearrange } from './edit';
import { keepHistory, recallHistory } from './history-store';
import { openProject } from './open-project';
import { leaveOutbox, abandonedOutboxes, outboxKept } from './outbox';
import { projectClosed, undone } from './project-slice';
import { sendUnsent } from './send-unsent';
import { makeStore } from './store';

jest.mock('./derive', () => ({ lookForDerived: () => () => undefined, forgetGone: () => Promise.resolve() }));

/** A server of one project, with all its states and the names of the changes that led to them. */
class OneProject {
  states: ProjectDocument[] = [storedProject().document];
  batches = new Map<string, number>();
  away = false;
  /** Takes a change, and its answer is lost. */
  losesAnswers = false;

  get revision(): number {
    return this.states.length;
  }

  stored = (revision = this.revision) => ({
    ...storedProject(revision),
    revision,
    document: this.states[revision - 1]!,
  });

  private reach(): void {
    if (this.away) throw new Unreachable();
  }

  patch = async (_id: string, revision: number, patch: PatchOperation[], batch: string) => {
    this.reach();
    const known = this.batches.get(batch);
    if (known) return { revision: known };
    if (revision !== this.revision) {
      throw new Refused({
        type: 'urn:hastig:problem:stale-revision',
        title: 'stale',
        status: 409,
        current: this.stored(),
      });
    }
    this.states.push(applied(this.states.at(-1)!, patch));
    this.batches.set(batch, this.revision);
    if (this.losesAnswers) throw new Unreachable();
    return { revision: this.revision };
  };

  rename(name: string): void {
    this.states.push({ ...this.states.at(-1)!, name });
  }
}

let server: OneProject;

function openPage() {
  const { store, listeners } = makeStore();
  startAutosave(listeners);
  const until = async (state: string): Promise<void> => {
    while (store.getState().project.save !== state) await new Promise((resolve) => setTimeout(resolve, 5));
    await outboxKept();
  };
  return {
    store,
    until,
    open: () => store.dispatch(openProject('project')),
    rename: (name: string) => void store.dispatch(rearrange('rename', (project) => ({ ...project, name }))),
    /** As a crash does: nothing is sent any more, and its lock is free. */
    crash: async () => {
      listeners.clearListeners();
      await leaveOutbox();
    },
  };
}

beforeEach(() => {
  server = new OneProject();
  jest.spyOn(api, 'getProject').mockImplementation(async () => {
    if (server.away) throw new Unreachable();
    return server.stored();
  });
  jest.spyOn(api, 'getRevision').mockImplementation(async (_id, revision) => server.stored(revision));
  jest.spyOn(api, 'patchProject').mockImplementation((...args) => server.patch(...args));
});
afterEach(async () => {
  await leaveOutbox();
  server.away = false;
  await sendUnsent();
});

describe('edits that the server has not answered for', () => {
  it('survive the page, and go out when the project is opened again', async () => {
    const first = openPage();
    await first.open();
    server.away = true;
    first.rename('A');
    first.rename('B');
    await first.until('offline');
    await first.crash();
    server.away = false;

    const second = openPage();
    await second.open();
    expect(second.store.getState().project).toMatchObject({ document: { name: 'B' } });
    await second.until('saved');
    expect(server.stored().document.name).toBe('B');
    expect(await abandonedOutboxes()).toEqual([]);
    // They can still be undone.
    second.store.dispatch(undone());
    expect(second.store.getState().project.document!.name).toBe('Film');
    await second.crash();
  });

  it('go out by themselves when the program starts and the server is back', async () => {
    const page = openPage();
    await page.open();
    server.away = true;
    page.rename('A');
    await page.until('offline');
    await page.crash();
    await sendUnsent();
    expect(server.stored().document.name).toBe('Film');
    server.away = false;
    await sendUnsent();
    expect(server.stored().document.name).toBe('A');
    expect(await abandonedOutboxes()).toEqual([]);
  });

  it('go out when the project is left a moment after they were made', async () => {
    const page = openPage();
    await page.open();
    page.rename('A');
    page.store.dispatch(projectClosed());
    while (server.stored().document.name !== 'A') await new Promise((resolve) => setTimeout(resolve, 5));
  });

  it('are not made twice where only the answer was lost', async () => {
    const page = openPage();
    await page.open();
    server.losesAnswers = true;
    page.rename('A');
    await page.until('offline');
    server.losesAnswers = false;
    await page.until('saved');
    expect([server.revision, page.store.getState().project.save]).toEqual([2, 'saved']);
    server.losesAnswers = true;
    page.rename('B');
    await page.until('offline');
    await page.crash();
    server.losesAnswers = false;

    const second = openPage();
    await second.open();
    expect(second.store.getState().project).toMatchObject({ document: { name: 'B' }, revision: 3, pending: [] });
    await second.crash();
  });

  it('meet what others changed meanwhile the way two tabs do', async () => {
    const page = openPage();
    await page.open();
    server.away = true;
    page.rename('Mine');
    await page.until('offline');
    await page.crash();
    server.away = false;
    server.rename('Theirs');

    const second = openPage();
    await second.open();
    expect(second.store.getState().project).toMatchObject({
      save: 'conflict',
      document: { name: 'Mine' },
      base: { name: 'Film' },
      theirs: { revision: 2, document: { name: 'Theirs' } },
    });
    await second.crash();
  });

  it('of a page that is still there are left to it', async () => {
    const page = openPage();
    await page.open();
    server.away = true;
    page.rename('A');
    await page.until('offline');
    expect(await abandonedOutboxes()).toEqual([]);
    await page.crash();
  });
});

describe('history that is kept', () => {
  const step = (label: string) => ({ label, patches: [], inverse: [] });

  it('is recalled at its revision only, undone steps included', async () => {
    const [a, b, c] = ['a', 'b', 'c'].map(step);
    await keepHistory('p', { revision: 3, past: [a!, b!], future: [c!] });
    expect(await recallHistory('p', 3)).toEqual({ revision: 3, past: [a, b], future: [c] });
    expect(await recallHistory('p', 4)).toBeUndefined();
    // Undone and gone another way: what could be redone is no more.
    await keepHistory('p', { revision: 5, past: [a!, step('d')], future: [] });
    expect((await recallHistory('p', 5))?.past.map(({ label }) => label)).toEqual(['a', 'd']);
  });

  it('grows by what is new, however long it is', async () => {
    const past = Array.from({ length: 2000 }, (_, n) => step(String(n)));
    await keepHistory('long', { revision: 1, past, future: [] });
    const put = jest.spyOn(IDBObjectStore.prototype, 'put');
    await keepHistory('long', { revision: 2, past: [...past, step('new')], future: [] });
    // The step and the head.
    expect(put).toHaveBeenCalledTimes(2);
    put.mockRestore();
  });
});
