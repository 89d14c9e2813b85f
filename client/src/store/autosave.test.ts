import { PROBLEM_MEDIA_TYPE } from '@hastig/contract';
import { setSpeed } from '@hastig/core';
import { storedProject } from '../../test/project';
import { startAutosave } from './autosave';
import { rearrange, retime } from './edit';
import { opened, redone, undone } from './project-slice';
import { openClip } from './selectors';
import { makeStore } from './store';

// Keeping the history takes its time, as a browser's database does.
jest.mock('./history-store', () => ({ keepHistory: () => new Promise((resolve) => setTimeout(resolve, 8)) }));

type Answer = { status: number; body: unknown } | 'unreachable';

/** A store with an open project, and a server that answers as told and remembers what it was sent. */
function setUp(answers: Answer[]) {
  const sent: { revision: number; batch: string; patch: { op: string; path: string; value: unknown }[] }[] = [];
  globalThis.fetch = jest.fn(async (_address, options) => {
    sent.push(JSON.parse(String((options as RequestInit).body)) as (typeof sent)[number]);
    const answer = answers.shift() ?? { status: 200, body: { revision: sent.at(-1)!.revision + 1 } };
    if (answer === 'unreachable') throw new TypeError('failed to fetch');
    return {
      ok: answer.status < 400,
      status: answer.status,
      headers: { get: () => PROBLEM_MEDIA_TYPE },
      json: async () => answer.body,
    } as unknown as Response;
  }) as typeof fetch;
  const { store, listeners } = makeStore();
  startAutosave(listeners);
  store.dispatch(opened({ project: storedProject() }));
  const rename = (name: string): void => void store.dispatch(rearrange('rename', (project) => ({ ...project, name })));
  const until = async (state: string): Promise<void> => {
    for (let turn = 0; turn < 400 && store.getState().project.save !== state; turn++)
      await jest.advanceTimersByTimeAsync(50);
    expect(store.getState().project.save).toBe(state);
  };
  return { store, sent, rename, until };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

describe('autosave', () => {
  it('gathers edits and sends them as one JSON Patch from the revision they start at', async () => {
    const { store, sent, rename, until } = setUp([]);
    rename('A');
    rename('B');
    expect(store.getState().project.save).toBe('unsaved');
    await until('saved');
    expect(sent).toEqual([
      {
        revision: 1,
        batch: expect.any(String),
        patch: [
          { op: 'replace', path: '/name', value: 'A' },
          { op: 'replace', path: '/name', value: 'B' },
        ],
      },
    ]);
    expect(store.getState().project).toMatchObject({ revision: 2, pending: [] });
  });

  it('misses no edit, at whatever moment of saving it comes', async () => {
    for (let wait = 0; wait < 12; wait++) {
      const { store, sent, rename, until } = setUp([]);
      rename('A');
      await jest.advanceTimersByTimeAsync(250);
      // So many milliseconds into the request, its answer, and the keeping of the history.
      await jest.advanceTimersByTimeAsync(wait);
      rename('B');
      await until('saved');
      expect(store.getState().project.pending).toEqual([]);
      expect(sent.flatMap(({ patch }) => patch)).toHaveLength(2);
    }
  });

  it('keeps what could not be sent and tries again', async () => {
    const { store, sent, rename, until } = setUp(['unreachable', 'unreachable']);
    rename('A');
    await until('offline');
    expect(store.getState().project.pending).toHaveLength(1);
    expect(new Set(sent.map(({ batch }) => batch)).size).toBe(1);
    rename('B');
    await until('saved');
    // What may have arrived is sent again as it was; what came since follows it.
    expect(sent.map(({ patch }) => patch.map(({ value }) => value))).toEqual([['A'], ['A'], ['A'], ['B']]);
    expect(store.getState().project.document!.name).toBe('B');
  });

  it('goes on where the same stands there already, as when a page was left while it sent it', async () => {
    const theirs = storedProject(2);
    const current = { ...theirs, document: { ...theirs.document, name: 'mine' } };
    const problem = { type: 'urn:hastig:problem:stale-revision', title: 'stale', status: 409, current };
    const { store, sent, rename, until } = setUp([{ status: 409, body: problem }]);
    rename('mine');
    await until('saved');
    expect(store.getState().project).toMatchObject({ revision: 2, pending: [] });
    rename('mine, later');
    await until('saved');
    expect(sent.at(-1)!.revision).toBe(2);
  });

  it('stops at a stale revision, shows what is there, and loses nothing', async () => {
    const theirs = { ...storedProject(5), document: { ...storedProject().document, name: 'Theirs' } };
    const problem = { type: 'urn:hastig:problem:stale-revision', title: 'stale', status: 409, current: theirs };
    const { store, sent, rename, until } = setUp([{ status: 409, body: problem }]);
    rename('Mine');
    await until('conflict');
    rename('Mine too');
    await jest.advanceTimersByTimeAsync(3000);
    expect(store.getState().project).toMatchObject({
      document: { name: 'Mine too' },
      theirs: { document: { name: 'Theirs' } },
    });
    // The second try is refused as well, never forced.
    expect(sent.every(({ revision }) => revision === 1)).toBe(true);
  });

  it('puts together what goes together without asking, and sends it at once, however often the other is quicker', async () => {
    const stale = (revision: number, change: object): Answer => {
      const current = { ...storedProject(revision), document: { ...storedProject().document, ...change } };
      const problem = { type: 'urn:hastig:problem:stale-revision', title: 'stale', status: 409, current };
      return { status: 409, body: problem };
    };
    const wait = { length: 'slot', arrivals: 'wait' } as const;
    const { store, sent, rename, until } = setUp([5, 6, 7].map((revision) => stale(revision, { defaults: wait })));
    rename('Mine');
    await until('saved');
    expect(sent.map(({ revision }) => revision)).toEqual([1, 5, 6, 7]);
    expect(sent.at(-1)!.patch).toEqual([{ op: 'replace', path: '/name', value: 'Mine' }]);
    expect(store.getState().project).toMatchObject({ revision: 8, document: { name: 'Mine', defaults: wait } });
    expect(store.getState().session.message).toContain('merged');
    // All of it is one step back.
    store.dispatch(undone());
    expect(store.getState().project.document).toMatchObject({ name: 'Film', defaults: wait });
  });

  it('makes no edit that the server would refuse, and says why', () => {
    const said = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    const { store, rename } = setUp([]);
    rename('x'.repeat(300));
    expect(store.getState().project.document!.name).toBe('Film');
    expect(store.getState().project.pending).toEqual([]);
    expect(store.getState().session.notice).toContain('Nothing was changed');
    store.dispatch(rearrange('lose a clip', (project) => ({ ...project, clips: [] })));
    expect(store.getState().session.notice).toContain('there is no clip');
    said.mockRestore();
  });

  it('says when the server does not take a change', async () => {
    const { store, rename, until } = setUp([
      { status: 422, body: { type: 'x', title: 'not valid', status: 422, detail: '/name is empty' } },
    ]);
    rename('A');
    await until('refused');
    expect(store.getState().project.saveFault).toBe('/name is empty');
  });
});

describe('history', () => {
  it('undoes and redoes, and sends both as changes', async () => {
    const { store, sent, rename, until } = setUp([]);
    rename('A');
    await until('saved');
    store.dispatch(undone());
    expect(store.getState().project.document!.name).toBe('Film');
    await until('saved');
    store.dispatch(redone());
    expect(store.getState().project.document!.name).toBe('A');
    await until('saved');
    expect(sent.map(({ revision }) => revision)).toEqual([1, 2, 3]);
    store.dispatch(undone());
    rename('C');
    expect(store.getState().project.future).toEqual([]);
  });

  it('takes a retime as one step, and a refused one as none', () => {
    const { store } = setUp([]);
    const length = (): number => openClip(store.getState(), 'clip')!.map.spans.length;
    expect(store.dispatch(retime('slow', 'clip', (map) => setSpeed(map, { from: 10, to: 20 }, 0.5, 'content')))).toBe(
      true,
    );
    expect(length()).toBe(3);
    expect(store.dispatch(retime('stop', 'clip', (map) => setSpeed(map, { from: 10, to: 20 }, 0, 'content')))).toBe(
      false,
    );
    expect(length()).toBe(3);
    expect(store.getState().session.notice).toContain('never ends');
    expect(store.getState().project.past.map(({ label }) => label)).toEqual(['slow']);
  });
});
