import { newProject } from '@hastig/core';
import type { ProjectPatch } from '@hastig/contract';
import { startTestServer, type TestServer } from '../../test/app';
import { failCommits } from '../../test/fail';
import { readyDocument } from '../work/read-document';
import { ProjectStore } from './store';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

/** A document of version 1, which had no timeline: coming here reshapes it. */
const older = { version: 1, name: 'Old', sequence: { rate: { num: 25, den: 1 } }, sources: [], clips: [] };

type Step = 'stale' | 'good' | 'failed' | 'restart' | 'look';

/** All orders of some steps, each once. */
function orders<T>(of: readonly T[]): T[][] {
  if (of.length === 0) return [[]];
  return of.flatMap((first, place) =>
    orders([...of.slice(0, place), ...of.slice(place + 1)]).map((rest) => [first, ...rest]),
  );
}

const patchOf = (revision: number, name: string): ProjectPatch => ({
  revision,
  // A place that only the current version has.
  patch: [
    { op: 'replace', path: '/name', value: name },
    { op: 'replace', path: '/defaults/arrivals', value: 'wait' },
  ],
});

describe('a document of an older version', () => {
  it.each(
    orders<Step>(['stale', 'good', 'failed', 'restart', 'look']).map((order) => [order.join(', '), order] as const),
  )('is read and changed through %s', async (_, order) => {
    let store = new ProjectStore(server.knex);
    const { id } = await store.create(readyDocument(newProject('New')));
    await server
      .knex('snapshots')
      .where({ project_id: id })
      .update({ document: JSON.stringify(older) });
    store = new ProjectStore(server.knex);
    let [revision, name] = [1, 'Old'];
    for (const step of order) {
      if (step === 'restart') store = new ProjectStore(server.knex);
      else if (step === 'look') expect(await store.get(id)).toMatchObject({ revision, document: { name } });
      else if (step === 'good') {
        name = `Name ${revision}`;
        revision = await store.patch(id, patchOf(revision, name));
      } else if (step === 'stale') {
        await expect(store.patch(id, patchOf(revision + 7, 'Stale'))).rejects.toMatchObject({ status: 409 });
      } else {
        const mend = await failCommits(server.knex, 'projects');
        await expect(store.patch(id, patchOf(revision, 'Failed'))).rejects.toMatchObject({ code: '57P01' });
        await mend();
      }
    }
    for (const one of [store, new ProjectStore(server.knex)]) {
      expect(await one.get(id)).toMatchObject({ revision, document: { name, version: 9 } });
    }
    await new ProjectStore(server.knex).patch(id, patchOf(revision, 'Last'));
    expect(await new ProjectStore(server.knex).get(id)).toMatchObject({ document: { name: 'Last' } });
  });
});
