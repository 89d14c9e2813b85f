import { randomBytes } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { ServerJob, StoredMedia, StoredProject, TakenPart } from '@hastig/contract';
import request from 'supertest';
import { fixture, startTestServer, upload, type TestServer } from '../../test/app';
import { failCommits } from '../../test/fail';
import { film, FRAMES, Helper } from '../../test/helper';
import { JobFiles } from './files';

let server: TestServer;
let desk: Helper;
let job: ServerJob;

beforeEach(async () => {
  server = await startTestServer();
  const id = await upload(server.address, await readFile(fixture('plates-24.mp4')));
  const { body: stored } = await request(server.address).post(`/api/uploads/${id}/media`);
  const { body } = await request(server.address)
    .post('/api/projects')
    .send({ document: film(stored as StoredMedia) });
  const { id: projectId, revision } = body as StoredProject;
  const render = { projectId, revision, file: 'Marbles.mp4', form: { format: 'mp4' }, span: { from: 0, to: FRAMES } };
  job = (await request(server.address).post('/api/jobs').send({ render }).expect(201)).body as ServerJob;
  desk = await Helper.letIn(server.address);
});
afterEach(async () => {
  jest.restoreAllMocks();
  await server.close();
});

const now = async (): Promise<ServerJob> =>
  (await request(server.address).get(`/api/jobs/${job.id}`).expect(200)).body as ServerJob;

/** Does all parts that are left. @returns what was sent last */
async function doRest(): Promise<Buffer> {
  for (;;) {
    const content = await desk.make(await desk.next());
    if ((await now()).state === 'done') return content;
  }
}

async function expectReady(content: Buffer): Promise<void> {
  const { body } = await request(server.address).get(`/api/jobs/${job.id}/file`).buffer().expect(200);
  expect((body as Buffer).equals(content)).toBe(true);
  expect(await readdir(join(server.dataFolder, 'jobs', job.id))).toEqual(['result']);
}

it('a part whose end the database could not keep is told again, and done once', async () => {
  const part = await desk.next();
  const content = randomBytes(300);
  await desk.send(part, content).expect(204);
  const mend = await failCommits(server.knex, 'job_parts');
  await desk.done(part, content).expect(503);
  expect((await now()).parts).toEqual({ done: 0, all: 5 });
  await mend();
  await desk.done(part, content).expect(204);
  expect((await now()).parts).toEqual({ done: 1, all: 5 });
  await expectReady(await doRest());
}, 60_000);

it('a film that the database could not end is ended the next time, with the same file', async () => {
  let last: TakenPart = await desk.next();
  while (last.task.do !== 'join') {
    await desk.make(last);
    last = await desk.next();
  }
  const content = randomBytes(300);
  await desk.send(last, content).expect(204);
  const mend = await failCommits(server.knex, 'jobs');
  await desk.done(last, content).expect(503);
  // It has its name already, but is not said to be ready.
  await request(server.address).get(`/api/jobs/${job.id}/file`).expect(409);
  await mend();
  await desk.done(last, content).expect(204);
  await expectReady(content);
}, 60_000);

it('a database that was restarted goes on where it was', async () => {
  const part = await desk.next();
  // All connections of this server, as when the database ends; others test beside it.
  const asked = Array.from({ length: 4 }, () => server.knex.raw('select pg_backend_pid() as pid, pg_sleep(0.1)'));
  const pids = (await Promise.all(asked)).map(({ rows }: { rows: { pid: number }[] }) => rows[0]!.pid);
  await server.knex.raw('select pg_terminate_backend(pid) from unnest(?::int[]) as pid where pid <> pg_backend_pid()', [pids]); // prettier-ignore
  const content = randomBytes(300);
  const again = async (ask: () => request.Test): Promise<void> => {
    for (let n = 0; n < 20; n++) if ((await ask()).status === 204) return;
    throw new Error('It never went on.');
  };
  await again(() => desk.send(part, content));
  await again(() => desk.done(part, content));
  expect((await now()).parts).toEqual({ done: 1, all: 5 });
  await expectReady(await doRest());
}, 60_000);

it('a full disk ends the job with what to do, leaves nothing half made, and it goes on when there is room', async () => {
  await desk.make(await desk.next());
  const part = await desk.next();
  await desk.send(part, randomBytes(200)).expect(204);
  const full = Object.assign(new Error('write'), { code: 'ENOSPC' });
  const write = jest.spyOn(JobFiles.prototype, 'write').mockRejectedValue(full);
  const { body } = await desk.send(part, randomBytes(200), 200).expect(507);
  expect((body as { title: string }).title).toMatch(/full/);
  // As a machine tells it.
  let { id, lease } = part;
  const message = 'The disk is full. Free some space, then start the job again.';
  for (let n = 0; n < 3; n++) {
    await desk.post(`/parts/${id}/failed`, { lease, message, again: true }).expect(204);
    if (n < 2) ({ id, lease } = await desk.next());
  }
  expect(await now()).toMatchObject({ state: 'failed', message, parts: { done: 1 } });
  expect((await readdir(join(server.dataFolder, 'jobs', job.id))).filter((name) => name.endsWith('.part'))).toEqual([]);
  write.mockRestore();
  await request(server.address).patch(`/api/jobs/${job.id}`).send({ state: 'waiting' }).expect(200);
  await expectReady(await doRest());
}, 60_000);
