import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { ProjectDocument, ServerJob, StoredProject, TakenPart } from '@hastig/contract';
import request from 'supertest';
import { fixture, startTestServer, upload, type TestServer } from '../../test/app';
import { film, FRAMES, Helper } from '../../test/helper';
import { readFile } from 'node:fs/promises';
import { PartStore } from './parts';
import { JobFiles } from './files';
import { JobStore } from './store';
import { Queue } from './queue';
import { MediaStore } from '../media/store';
import { Uploads } from '../media/uploads';
import { WorkPool } from '../work/pool';
import { ProjectStore } from '../projects/store';

let server: TestServer;
let project: StoredProject;
let plates: Buffer;

beforeAll(async () => {
  server = await startTestServer();
  plates = await readFile(fixture('plates-24.mp4'));
  const id = await upload(server.address, plates);
  const { body: stored } = await request(server.address).post(`/api/uploads/${id}/media`);
  project = await store(film(stored));
});
afterAll(() => server.close());
// Each begins with nothing to do.
afterEach(async () => {
  for (const job of await list())
    if (['waiting', 'running', 'paused'].includes(job.state))
      await request(server.address).patch(`/api/jobs/${job.id}`).send({ state: 'cancelled' });
  await request(server.address).put('/api/jobs/settings').send({ atOnce: 16 });
});

async function store(document: ProjectDocument): Promise<StoredProject> {
  const { body } = await request(server.address).post('/api/projects').send({ document }).expect(201);
  return body as StoredProject;
}

const list = async (): Promise<ServerJob[]> => (await request(server.address).get('/api/jobs')).body as ServerJob[];
const one = async (id: string): Promise<ServerJob> =>
  (await request(server.address).get(`/api/jobs/${id}`)).body as ServerJob;

async function order(more: object = {}, priority = 0): Promise<ServerJob> {
  const render = {
    ...{ projectId: project.id, revision: project.revision, file: 'Marbles.mp4', form: { format: 'mp4' } },
    span: { from: 0, to: FRAMES },
    ...more,
  };
  const { body } = await request(server.address).post('/api/jobs').send({ render, priority }).expect(201);
  return body as ServerJob;
}

const letIn = (name?: string, scopes?: string[]): Promise<Helper> => Helper.letIn(server.address, name, scopes);

/** The parts as another server at the same database would have them. */
function parts(): PartStore {
  const { knex, dataFolder } = server;
  const [queue, files] = [new Queue(knex), new JobFiles(join(dataFolder, 'jobs'))];
  const media = new MediaStore(knex, join(dataFolder, 'media'), new WorkPool(''));
  const uploads = new Uploads({ knex, media, folder: join(dataFolder, 'uploads'), maxBytes: 1 });
  const jobs = new JobStore({ knex, queue, files, uploads, projects: new ProjectStore(knex) });
  return new PartStore({ knex, queue, files, jobs, media });
}

it('a film is done in parts, sound first, what joins them last; its file is there when all of them are', async () => {
  const job = await order();
  expect(job).toMatchObject({ state: 'waiting', total: FRAMES, parts: { done: 0, all: 5 }, project: 'Marbles' });
  const desk = await letIn();
  const tasks: TakenPart[] = [];
  const made = new Map<string, Buffer>();
  let last: Buffer = Buffer.alloc(0);
  for (let n = 0; n < 5; n++) {
    const part = await desk.next();
    tasks.push(part);
    await request(server.address).get(`/api/jobs/${job.id}/file`).expect(409);
    if (part.task.do === 'join') {
      for (const input of [...part.task.pictures, part.task.sound!]) {
        const { body } = await desk.get(`/parts/${part.id}/inputs/${input}?lease=${part.lease}`).buffer().expect(200);
        expect((body as Buffer).equals(made.get(input)!)).toBe(true);
      }
    }
    made.set(part.id, (last = await desk.make(part)));
  }
  await desk.idle();
  expect(tasks[0]!.task).toEqual({ do: 'sound' });
  expect(tasks.slice(1, 4).map(({ task }) => (task.do === 'pictures' ? task.from : -1)).sort((a, b) => a - b)).toEqual([0, 192, 384]); // prettier-ignore
  expect(tasks[4]!.task).toMatchObject({ do: 'join' });
  expect(tasks[1]!.order!.document.name).toBe('Marbles');
  expect(await one(job.id)).toMatchObject({ state: 'done', done: FRAMES, bytes: 1000, machines: [] });
  const { body, headers } = await request(server.address).get(`/api/jobs/${job.id}/file`).buffer().expect(200);
  expect((body as Buffer).equals(last)).toBe(true);
  expect(headers['content-disposition']).toContain('Marbles.mp4');
  expect(await readdir(join(server.dataFolder, 'jobs', job.id))).toEqual(['result']);
  await request(server.address).delete(`/api/jobs/${job.id}`).expect(204);
  expect(existsSync(join(server.dataFolder, 'jobs', job.id))).toBe(false);
});

it('what is sent in pieces, again, or with a hole is taken as it is meant', async () => {
  await order({ form: { format: 'gif' } });
  const desk = await letIn();
  const part = await desk.next();
  expect(part.task).toEqual({ do: 'whole' });
  const content = randomBytes(3000);
  await desk.send(part, content.subarray(0, 1000)).expect(204);
  await desk.send(part, content.subarray(2000), 2000).expect(409);
  await desk.send(part, content.subarray(500, 2000), 500).expect(204);
  // Not all of it has arrived.
  await desk.done(part, content).expect(409);
  await desk.send(part, content).expect(204);
  await desk.done(part, content).expect(204);
  // The answer was lost.
  await desk.done(part, content).expect(204);
  expect((await list()).filter(({ file, state }) => file === 'Marbles.mp4' && state === 'done').length).toBe(1);
});

it('media are given to who works on what needs them, in ranges, and to nobody else', async () => {
  await order();
  const [desk, other] = [await letIn(), await letIn('Laptop')];
  const part = await desk.next();
  const [{ sha256 }] = part.media as [TakenPart['media'][number]];
  const path = `/parts/${part.id}/media/${sha256}?lease=${part.lease}`;
  const { body } = await desk.get(path).set('Range', 'bytes=100-199').buffer().expect(206);
  expect((body as Buffer).equals(plates.subarray(100, 200))).toBe(true);
  await other.get(path).expect(409);
  await desk.get(`/parts/${part.id}/media/${'0'.repeat(64)}?lease=${part.lease}`).expect(404);
});

it('who has no key, a wrong one, an old one, or one for other things is told nothing', async () => {
  await order();
  const desk = await letIn();
  const converter = await letIn('Converter', ['convert']);
  for (const key of ['', 'Bearer x', `Bearer ${desk.machine.id}.${'A'.repeat(43)}`, 'Basic abc']) {
    for (const path of ['/next', '/nothing', '/parts/x/heard']) {
      const { status, body } = await request(server.address).post(`/api/worker${path}`).set('Authorization', key);
      expect([status, Object.keys(body as object).sort()]).toEqual([401, ['status', 'title', 'type']]);
    }
  }
  const part = await desk.next();
  await request(server.address).delete(`/api/machines/${desk.machine.id}`).expect(204);
  await desk.post(`/parts/${part.id}/heard`, { lease: part.lease, done: 1, framesPerSecond: 1 }).expect(401);
  // Nothing is told that its key is not good for.
  await converter.idle();
}, 60_000);

it('a machine that is lost gives its part to another; what it sends later is refused, nothing is done twice', async () => {
  const job = await order({ form: { format: 'gif' } });
  const [desk, laptop] = [await letIn(), await letIn('Laptop')];
  const first = await desk.next();
  await desk.send(first, randomBytes(100)).expect(204);
  await parts().giveUpLost(60_000);
  expect((await one(job.id)).state).toBe('running');
  await parts().giveUpLost(-1);
  const second = await laptop.next();
  expect([second.id, second.lease === first.lease]).toEqual([first.id, false]);
  // A laptop that slept comes back.
  const { body } = await desk.post(`/parts/${first.id}/heard`, { lease: first.lease, done: 3, framesPerSecond: 1 });
  expect(body).toEqual({ wish: 'stop' });
  await desk.send(first, randomBytes(100)).expect(409);
  await desk.done(first, randomBytes(100)).expect(409);
  const content = await laptop.make(second);
  const file = await request(server.address).get(`/api/jobs/${job.id}/file`).buffer().expect(200);
  expect((file.body as Buffer).equals(content)).toBe(true);
  const { body: log } = await request(server.address).get(`/api/jobs/${job.id}/log`).expect(200);
  expect((log as { text: string; machine: string | null }[]).map(({ text, machine }) => [machine, text])).toEqual([
    [null, 'Added: 1 part.'],
    ['Desk', 'Started: all of it.'],
    ['Desk', 'Stopped answering: all of it goes to another machine.'],
    ['Laptop', 'Started: all of it.'],
    ['Laptop', 'Done: all of it.'],
    [null, 'The file is ready.'],
  ]);
});

it('what fails is tried again and then given up with its reason; started again it keeps what was done', async () => {
  const job = await order();
  const desk = await letIn();
  await desk.make(await desk.next());
  const message = 'The disk is full.';
  for (let n = 0; n < 3; n++) {
    const { id, lease } = await desk.next();
    // Always the same one: the first of what waits.
    await desk.post(`/parts/${id}/failed`, { lease, message, again: n < 2 }).expect(204);
    if (n === 2) break;
  }
  expect(await one(job.id)).toMatchObject({ state: 'failed', message, parts: { done: 1 } });
  await desk.idle();
  await request(server.address).patch(`/api/jobs/${job.id}`).send({ state: 'waiting' }).expect(200);
  for (let n = 0; n < 4; n++) await desk.make(await desk.next());
  expect(await one(job.id)).toMatchObject({ state: 'done', message: null });
}, 60_000);

it('is paused, goes on, is cancelled everywhere, and can be done again', async () => {
  const job = await order();
  const desk = await letIn();
  const change = (body: object) => request(server.address).patch(`/api/jobs/${job.id}`).send(body);
  const part = await desk.next();
  const heard = async (): Promise<string> =>
    ((await desk.post(`/parts/${part.id}/heard`, { lease: part.lease, done: 5, framesPerSecond: 12 })).body as { wish: string }).wish; // prettier-ignore
  expect(await heard()).toBe('on');
  await change({ state: 'paused' }).expect(200);
  expect(await heard()).toBe('pause');
  await desk.idle();
  await change({ state: 'waiting' }).expect(200);
  expect([await heard(), (await one(job.id)).state]).toEqual(['on', 'running']);
  await desk.send(part, randomBytes(10)).expect(204);
  await change({ state: 'cancelled' }).expect(200);
  expect(await heard()).toBe('stop');
  await change({ state: 'paused' }).expect(409);
  expect(await readdir(join(server.dataFolder, 'jobs', job.id))).toEqual([]);
  await change({ state: 'waiting' }).expect(200);
  for (let n = 0; n < 5; n++) await desk.make(await desk.next());
  expect((await one(job.id)).state).toBe('done');
}, 60_000);

it('what matters more comes first, also when that is said later; no more are at work than may be', async () => {
  const [low, normal, high] = [
    await order({ form: { format: 'gif' }, file: 'low' }, -1),
    await order({ form: { format: 'gif' }, file: 'normal' }),
    await order({ form: { format: 'gif' }, file: 'high' }, 1),
  ];
  await request(server.address).patch(`/api/jobs/${low.id}`).send({ priority: 1 }).expect(200);
  await request(server.address).put('/api/jobs/settings').send({ atOnce: 2 }).expect(200);
  const desk = await letIn();
  const files = [(await desk.next()).file, (await desk.next()).file];
  expect(files.sort()).toEqual(['high', 'low']);
  await desk.idle();
  expect([(await one(normal.id)).state, (await one(high.id)).state]).toEqual(['waiting', 'running']);
}, 60_000);

it('jobs of one priority are done in the order in which they came, each as a whole', async () => {
  const first = await order({ file: 'first' });
  await order({ file: 'second' });
  await request(server.address).patch(`/api/jobs/${first.id}`).send({ state: 'paused' }).expect(200);
  await request(server.address).patch(`/api/jobs/${first.id}`).send({ state: 'waiting' }).expect(200);
  const desk = await letIn();
  const files: string[] = [];
  for (let n = 0; n < 10; n++) {
    const part = await desk.next();
    files.push(part.file);
    await desk.make(part);
  }
  expect(files).toEqual([...Array<string>(5).fill('first'), ...Array<string>(5).fill('second')]);
}, 60_000);

it('only machines that encode it work on a film, and by one version of a browser; where that is gone it is begun again', async () => {
  const job = await order({ file: 'bound' });
  await order({ file: 'av1', form: { format: 'mp4', pictureCoding: 'av1' } }, 1);
  const [desk, laptop, phone] = [await letIn(), await letIn('Laptop'), await letIn('Phone')];
  desk.facts = { ...desk.facts, browser: 'Chromium 8' };
  laptop.facts = { ...laptop.facts, browser: 'Chromium 9' };
  phone.facts = { ...phone.facts, codecs: [] };
  await phone.idle();
  // The film that matters more is not for it.
  const part = await desk.next();
  expect([part.file, part.task.do]).toEqual(['bound', 'sound']);
  await laptop.idle();
  await desk.make(part);
  expect((await desk.next()).file).toBe('bound');
  await order({ file: 'other' });
  // What lies behind what does not suit it is found, and the rest stays where it was.
  const other = await laptop.next();
  expect(other.file).toBe('other');
  expect((await one(job.id)).parts).toEqual({ done: 1, all: 5 });

  await request(server.address).delete(`/api/machines/${desk.machine.id}`).expect(204);
  await parts().giveUpLost(-1);
  expect((await one(job.id)).parts).toEqual({ done: 0, all: 5 });
  const { body: log } = await request(server.address).get(`/api/jobs/${job.id}/log`);
  expect((log as { text: string }[]).at(-1)!.text).toMatch(/^No machine with Chromium 8 is left\. Begun again/);
  expect((await laptop.next()).file).toBe('bound');
}, 60_000);

it('more machines than the server has connections to its database may ask at once', async () => {
  const count = 14;
  for (let n = 0; n < count; n++) await order({ form: { format: 'gif' }, file: `${n}` });
  const machines = await Promise.all(Array.from({ length: count }, (_, n) => letIn(`Machine ${n}`)));
  const taken = await Promise.all(machines.map((machine) => machine.next()));
  expect(new Set(taken.map(({ id }) => id)).size).toBe(count);
  await Promise.all(machines.map((machine, n) => machine.make(taken[n]!)));
}, 50_000);

it('orders that can’t be are refused', async () => {
  const send = (render: object) => request(server.address).post('/api/jobs').send({ render });
  const good = {
    projectId: project.id,
    revision: 1,
    file: 'x.mp4',
    form: { format: 'mp4' },
    span: { from: 0, to: 10 },
  };
  await send({ ...good, projectId: '00000000-0000-4000-8000-000000000000' }).expect(404);
  await send({ ...good, revision: 99 }).expect(404);
  await send({ ...good, span: { from: 10, to: 10 } }).expect(422);
  await send({ ...good, span: { from: 0, to: FRAMES + 1 } }).expect(422);
  await send({ ...good, clipId: 'none' }).expect(422);
  await send({ ...good, form: { format: 'avi' } }).expect(422);
  for (const path of ['x', '00000000-0000-4000-8000-000000000000'])
    await request(server.address).get(`/api/jobs/${path}`).expect(404);
});

it('many jobs and five machines that come and go: each is done once', async () => {
  const jobs: ServerJob[] = [];
  for (let n = 0; n < 24; n++) jobs.push(await order({ form: { format: 'gif' }, file: `${n}` }, (n % 3) - 1));
  const done: string[] = [];
  let seed = 7;
  const random = (): number => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647;
  let losing = true;
  const work = async (name: string): Promise<void> => {
    const helper = await letIn(name);
    for (;;) {
      const mine = (await list()).filter(({ id }) => jobs.some((job) => job.id === id));
      if (mine.every(({ state }) => state === 'done')) return;
      const { status, body } = await helper.post('/next?wait=300', helper.facts);
      if (status !== 200) continue;
      const part = body as TakenPart;
      // It goes in the middle, and comes back with something else.
      if (losing && random() < 0.1) continue;
      const content = randomBytes(50);
      await helper.send(part, content);
      if ((await helper.done(part, content)).status === 204) done.push(part.file);
    }
  };
  await request(server.address).put('/api/jobs/settings').send({ atOnce: 1000 }).expect(200);
  const others = parts();
  const lose = setInterval(() => void others.giveUpLost(1500), 500);
  // Machines are lost for a while, then no more: else a job would be given up by chance.
  setTimeout(() => (losing = false), 2000);
  await Promise.all(Array.from({ length: 5 }, (_, n) => work(`Machine ${n}`)));
  clearInterval(lose);
  expect(done.length).toBe(24);
  expect(new Set(done).size).toBe(24);
}, 100_000);
