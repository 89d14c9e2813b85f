import { newProject } from '@hastig/core';
import request from 'supertest';
import { startTestServer, type TestServer } from '../../test/app';
import { readyDocument } from '../work/read-document';
import { ProjectStore } from './store';
import { thinned } from './thin';

const [MINUTE, HOUR, DAY] = [60_000, 3_600_000, 86_400_000];
const none = new Map<number, string>();
const now = Date.UTC(2026, 4, 20, 12, 30);

it('of what lies a day back one state an hour stays, of what lies a month back one a day', () => {
  const states = (ages: readonly number[]) => ages.map((age, n) => ({ revision: n + 1, at: new Date(now - age) }));
  expect(thinned(states([3 * HOUR, 2 * HOUR, MINUTE, 0]), now, none)).toEqual([]);
  // 11:10, 11:20 and 12:10 the day before yesterday; 20:00 and 22:00 forty days ago.
  const two = 2 * DAY;
  expect(thinned(states([two + 80 * MINUTE, two + 70 * MINUTE, two + 20 * MINUTE, 0]), now, none)).toEqual([1]);
  expect(thinned(states([40 * DAY + 16.5 * HOUR, 40 * DAY + 14.5 * HOUR, 2 * HOUR]), now, none)).toEqual([1]);
  expect(thinned(states([two + 3 * MINUTE, two + 2 * MINUTE, two + MINUTE]), now, new Map([[1, 'First cut']]))).toEqual(
    [2],
  );
});

describe('a project that is thinned out', () => {
  let server: TestServer;
  beforeAll(async () => {
    server = await startTestServer();
  });
  afterAll(() => server.close());

  it('has every state that stays as it was, also while it is changed, and no state that is gone', async () => {
    const store = new ProjectStore(server.knex);
    const { id } = await store.create(readyDocument(newProject('Name 1')));
    for (let revision = 1; revision < 40; revision++)
      await store.patch(id, {
        revision,
        patch: [{ op: 'replace', path: '/name', value: `Name ${revision + 1}` }],
      });
    // Ten minutes apart, the last one two days ago.
    for (let revision = 1; revision <= 40; revision++) {
      const created_at = new Date(Date.now() - 2 * DAY - (40 - revision) * 10 * MINUTE);
      for (const table of ['revisions', 'snapshots'])
        await server.knex(table).where({ project_id: id, revision }).update({ created_at });
    }
    const fresh = new ProjectStore(server.knex);
    const named = (revision: number, name: string) =>
      request(server.address).patch(`/api/projects/${id}/revisions/${revision}`).send({ name });
    await named(12, 'Music laid').expect(204);
    await named(13, 'Not for long').expect(204);
    await named(13, '').expect(204);
    await named(77, 'Not there').expect(404);
    await named(12, 'a'.repeat(201)).expect(422);
    const reading = Promise.all(Array.from({ length: 20 }, () => new ProjectStore(server.knex).get(id)));
    await fresh.thin(Date.now());
    for (const { document } of await reading) expect(document.name).toBe('Name 40');
    const left = await fresh.revisions(id);
    // One an hour, and the one with a name, which may be the last of its hour.
    expect(left.length).toBeGreaterThanOrEqual(7);
    expect(left.length).toBeLessThanOrEqual(9);
    expect(left.filter(({ name }) => name !== undefined)).toMatchObject([{ revision: 12, name: 'Music laid' }]);
    for (const { revision } of left) expect((await fresh.at(id, revision)).document.name).toBe(`Name ${revision}`);
    expect(await fresh.patch(id, { revision: 40, patch: [{ op: 'replace', path: '/name', value: 'After' }] })).toBe(41);
    expect((await new ProjectStore(server.knex).get(id)).document.name).toBe('After');
    await fresh.thin(Date.now());
    expect((await fresh.revisions(id)).length).toBe(left.length + 1);
  });
});
