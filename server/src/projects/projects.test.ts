import type { Problem, ProjectRevision, ProjectSummary, StoredProject } from '@hastig/contract';
import { addSource, newProject } from '@hastig/core';
import request from 'supertest';
import { startTestServer, type TestServer } from '../../test/app';
import { ProjectStore } from './store';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

const api = () => request(server.address);
const create = async (name = 'Film'): Promise<StoredProject> =>
  (await api().post('/api/projects').send({ name }).expect(201)).body as StoredProject;
const rename = (revision: number, value: unknown) => ({ revision, patch: [{ op: 'replace', path: '/name', value }] });

describe('projects', () => {
  it('are made, listed, changed and removed', async () => {
    const { id } = await create('First');
    await api().patch(`/api/projects/${id}`).send(rename(1, 'Second')).expect(200, { revision: 2 });
    const { body } = await api().get(`/api/projects/${id}`).expect(200);
    expect(body).toMatchObject({ revision: 2, document: { name: 'Second', clips: [] } });
    const list = (await api().get('/api/projects').expect(200)).body as ProjectSummary[];
    expect(list.find((one) => one.id === id)).toMatchObject({ name: 'Second', sources: 0, clips: 0, revision: 2 });
    await api().delete(`/api/projects/${id}`).expect(204);
    await api().get(`/api/projects/${id}`).expect(404);
    await api().patch(`/api/projects/${id}`).send(rename(2, 'Third')).expect(404);
  });

  it('that were removed come back, are deleted when told, or after a week', async () => {
    const named = async (address: string): Promise<string[]> =>
      ((await api().get(address).expect(200)).body as ProjectSummary[]).map(({ id }) => id);
    const [one, two, three] = [await create('One'), await create('Two'), await create('Three')];
    for (const { id } of [one, two, three]) await api().delete(`/api/projects/${id}`).expect(204);
    await api().delete(`/api/projects/${one.id}`).expect(404);
    expect(await named('/api/projects')).not.toContain(one.id);
    expect(await named('/api/projects/removed')).toEqual(expect.arrayContaining([one.id, two.id, three.id]));
    await api().post(`/api/projects/removed/${one.id}`).expect(204);
    await api().post(`/api/projects/removed/${one.id}`).expect(404);
    await api().get(`/api/projects/${one.id}`).expect(200);
    await api().delete(`/api/projects/removed/${one.id}`).expect(404);
    await api().delete(`/api/projects/removed/${two.id}`).expect(204);
    await api().post(`/api/projects/removed/no-id`).expect(404);
    expect(await named('/api/projects/removed')).not.toContain(two.id);
    const store = new ProjectStore(server.knex);
    await store.purge(Date.now() + 6 * 86_400_000);
    expect(await named('/api/projects/removed')).toContain(three.id);
    await store.purge(Date.now() + 8 * 86_400_000);
    expect(await named('/api/projects/removed')).toEqual([]);
    await api().get(`/api/projects/${one.id}`).expect(200);
  });

  it('are listed with length, size, what is missing and a frame of their film, found anew when they change', async () => {
    const facts = { container: 'MP4', mime: 'video/mp4', bytes: 5, audio: null, video: { codec: 'avc', codecString: '', width: 64, height: 36, rotation: 0 as const, rate: { num: 30, den: 1 }, frames: 90, constantRate: true, longestGroup: 1, seconds: 3 } }; // prettier-ignore
    const document = addSource(newProject('Listed'), { id: 's', name: 'a.mp4', sha256: 'e'.repeat(64), facts }, 'c');
    const { id } = (await api().post('/api/projects').send({ document }).expect(201)).body as StoredProject;
    const told = async (): Promise<ProjectSummary> =>
      ((await api().get('/api/projects').expect(200)).body as ProjectSummary[]).find((one) => one.id === id)!;
    expect(await told()).toMatchObject({
      seconds: 3,
      bytes: 0,
      missing: 1,
      picture: { sha256: 'e'.repeat(64), frame: 30 },
    });
    expect(await told()).toEqual(await told());
    const empty = { revision: 1, patch: [{ op: 'replace', path: '/clips', value: [] }, { op: 'replace', path: '/sequence/tracks/0/items', value: [] }] }; // prettier-ignore
    await api().patch(`/api/projects/${id}`).send(empty).expect(200);
    expect(await told()).toMatchObject({ seconds: 0, picture: { frame: 45 } });
  });

  it('come from a whole document, and keep what led to each revision', async () => {
    const document = newProject('Whole');
    const { id } = (await api().post('/api/projects').send({ document }).expect(201)).body as StoredProject;
    await api().patch(`/api/projects/${id}`).send(rename(1, 'Later')).expect(200);
    const rows = await server.knex('revisions').where({ project_id: id });
    expect(rows).toMatchObject([{ revision: 2, patch: [{ op: 'replace', path: '/name', value: 'Later' }] }]);
  });

  it('refuse a change that starts from an old revision, and hand over the current state (RFC 9457)', async () => {
    const { id } = await create();
    await api().patch(`/api/projects/${id}`).send(rename(1, 'Mine')).expect(200);
    const { body, headers } = await api().patch(`/api/projects/${id}`).send(rename(1, 'Yours')).expect(409);
    expect(headers['content-type']).toContain('application/problem+json');
    expect(body).toMatchObject({
      type: 'urn:hastig:problem:stale-revision',
      status: 409,
      current: { revision: 2, document: { name: 'Mine' } },
    });
  });

  it('let only one of many writers at the same revision through', async () => {
    const { id } = await create();
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, i) =>
        api()
          .patch(`/api/projects/${id}`)
          .send(rename(1, `Writer ${i}`)),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, ...Array<number>(7).fill(409)]);
  });

  it.each([
    ['an empty name', rename(1, '  '), '/name'],
    ['a field that does not exist', { revision: 1, patch: [{ op: 'add', path: '/colour', value: 'red' }] }, '/colour'],
    [
      'a path that leads nowhere',
      { revision: 1, patch: [{ op: 'replace', path: '/clips/7/name', value: 'x' }] },
      '/patch/0',
    ],
    ['no revision', { patch: [{ op: 'replace', path: '/name', value: 'x' }] }, '/revision'],
    ['an operation it does not know', { revision: 1, patch: [{ op: 'move', path: '/name' }] }, '/patch/0/op'],
    ['an operation without a value', { revision: 1, patch: [{ op: 'replace', path: '/name' }] }, '/patch/0/value'],
    [
      'a rate that is none',
      { revision: 1, patch: [{ op: 'replace', path: '/sequence/rate', value: { num: 29.97, den: 1 } }] },
      '/sequence/rate/num',
    ],
  ])('refuse %s, name the field, and stay as they were', async (_, body, pointer) => {
    const { id } = await create();
    const answer = (await api().patch(`/api/projects/${id}`).send(body).expect(422)).body as Problem;
    expect(answer.errors!.map((error) => error.pointer)).toContain(pointer);
    await api()
      .get(`/api/projects/${id}`)
      .expect(200)
      .expect(({ body: now }) => expect((now as StoredProject).revision).toBe(1));
  });

  it.each(['{"name":', '[]', '"text"', '{"name":"a","document":{}}', '{}'])('refuse the body %s', async (body) => {
    const answer = await api().post('/api/projects').set('Content-Type', 'application/json').send(body);
    expect([400, 422]).toContain(answer.status);
    expect(answer.body).toMatchObject({ status: answer.status, title: expect.any(String) });
  });

  it('are not found by what is no id', async () => {
    for (const id of ['1', 'x%27%3B--', '00000000-0000-4000-8000-000000000000'])
      await api().get(`/api/projects/${id}`).expect(404);
    await api()
      .get('/api/nothing')
      .expect(404)
      .expect('Content-Type', /problem\+json/);
  });
});

describe('who may write', () => {
  it('is no page of another origin, and nobody by another name', async () => {
    await api().post('/api/projects').set('Origin', 'http://elsewhere.example').send({ name: 'x' }).expect(403);
    await api().get('/api/projects').set('Host', 'elsewhere.example').expect(421);
    await api().post('/api/projects').set('Origin', server.address).send({ name: 'x' }).expect(201);
  });

  it('sends the headers that isolate the page', async () => {
    const { headers } = await api().get('/api/health').expect(200);
    expect(headers).toMatchObject({
      'cross-origin-opener-policy': 'same-origin',
      'cross-origin-embedder-policy': 'require-corp',
    });
  });

  it('refuses a body that is too large', async () => {
    await api()
      .post('/api/projects')
      .set('Content-Type', 'application/json')
      .send(`{"name":"${'x'.repeat(65 * 2 ** 20)}"}`)
      .expect(413);
  });
});

describe('earlier states', () => {
  it('are listed, the latest first, and each is as it was, across snapshots', async () => {
    const { id } = await create('State 1');
    for (let revision = 1; revision < 230; revision++) {
      await api()
        .patch(`/api/projects/${id}`)
        .send(rename(revision, `State ${revision + 1}`))
        .expect(200);
    }
    const list = (await api().get(`/api/projects/${id}/revisions`).expect(200)).body as ProjectRevision[];
    expect(list.map(({ revision }) => revision)).toEqual(Array.from({ length: 230 }, (_, i) => 230 - i));
    for (const revision of [1, 2, 99, 100, 101, 200, 229, 230]) {
      const { body } = await api().get(`/api/projects/${id}/revisions/${revision}`).expect(200);
      expect(body).toMatchObject({ id, revision, document: { name: `State ${revision}` } });
    }
    expect(Date.parse(list[0]!.at)).toBeGreaterThanOrEqual(Date.parse(list.at(-1)!.at));
    await server.settled();
    const kept = await server.knex('snapshots').where({ project_id: id });
    expect(kept).toHaveLength(3);
  });

  it('that never were are refused', async () => {
    const { id } = await create();
    await api().get(`/api/projects/${id}/revisions/2`).expect(404);
    for (const wrong of ['0', '-1', '1.5', 'abc', '99999999999']) {
      await api().get(`/api/projects/${id}/revisions/${wrong}`).expect(422);
    }
    await api().get('/api/projects/nothing/revisions').expect(404);
  });

  it('go with the project', async () => {
    const { id } = await create();
    await api().delete(`/api/projects/${id}`).expect(204);
    await api().delete(`/api/projects/removed/${id}`).expect(204);
    expect(await server.knex('snapshots').where({ project_id: id })).toEqual([]);
  });
});
