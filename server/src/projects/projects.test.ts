import type { Problem, ProjectRevision, ProjectSummary, StoredProject } from '@hastig/contract';
import { newProject } from '@hastig/core';
import request from 'supertest';
import { startTestServer, type TestServer } from '../../test/app';

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
      .send(`{"name":"${'x'.repeat(17 * 2 ** 20)}"}`)
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
    expect(await server.knex('snapshots').where({ project_id: id })).toEqual([]);
  });
});
