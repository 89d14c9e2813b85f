import { placeOf, SEQUENCE } from '@hastig/core';
import { storedProject } from '../../test/project';
import { rearrange } from './edit';
import { opened } from './project-slice';
import { rehearsal, startRehearsals } from './rehearse';
import { playingChanged, projectTried } from './session-slice';
import { makeStore } from './store';

const { document } = storedProject();
const pieces = [...rehearsal(document)].length;

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

/** A store with the project opened, and the rehearsal so many pieces of idle time on. */
async function rehearsed(idleTimes: number) {
  const { store, listeners } = makeStore();
  startRehearsals(listeners);
  store.dispatch(opened({ project: storedProject() }));
  const trials: unknown[] = [];
  store.subscribe(() => trials.push(store.getState().session.trial));
  const idle = (times: number) => jest.advanceTimersByTimeAsync(50 * times);
  await idle(idleTimes);
  return { store, trials, idle };
}

it('goes through an edit of the document, and leaves it alone', async () => {
  expect(placeOf(document, document.clips[0]!.id)?.containerId).toBe(SEQUENCE);
  expect(pieces).toBeGreaterThan(10);
  const { store, trials } = await rehearsed(pieces + 10);
  const { project, session } = store.getState();
  expect(project.document).toEqual(document);
  expect(project).toMatchObject({ past: [], pending: [], save: 'saved' });
  // What is seen was made anew once, of the same.
  expect(trials[0]).toEqual(document);
  expect(session.trial).toBeNull();
});

it('leaves alone what somebody tries out by then', async () => {
  const { store, idle } = await rehearsed(pieces + 2);
  expect(store.getState().session.trial).not.toBeNull();
  const tried = { ...document, name: 'tried out' };
  store.dispatch(projectTried(tried));
  await idle(10);
  expect(store.getState().session.trial).toBe(tried);
});

it('shows nothing anew while it plays', async () => {
  const { store, idle, trials } = await rehearsed(3);
  store.dispatch(playingChanged(true));
  await idle(pieces + 10);
  expect(trials.filter(Boolean)).toEqual([]);
});

it('ends with the first edit', async () => {
  const { store, idle, trials } = await rehearsed(3);
  expect(store.dispatch(rearrange('add a marker', (project) => ({ ...project, name: 'Other' })))).toBe(true);
  await idle(pieces + 10);
  expect(trials.filter(Boolean)).toEqual([]);
  expect(store.getState().project.document?.name).toBe('Other');
});
