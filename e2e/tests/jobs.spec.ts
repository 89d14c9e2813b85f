import { join } from 'node:path';
import type { Machine, NewMachineKey, ServerJob } from '@hastig/contract';
import { machineFacts } from '@hastig/worker/facts';
import { HelpingMachine } from '@hastig/worker/machine';
import { startWorker, type WorkerProcess } from '../../scripts/worker-process';
import { expect, makeDemo, test } from '../support/app';
import { scratch } from '../support/files';
import { hasFramework } from '../support/framework';
import { expectSame, inOnePiece } from '../support/one-piece';
import { storeDocument } from '../support/timeline';

const small = { format: 'mp4', width: 160, height: 90 } as const;

test('a film is handed to the server, goes on with the tab closed, machines killed, asleep and slow and the server restarted, and is what it would be here', async ({
  page,
  context,
  app,
}) => {
  test.skip(!hasFramework, 'needs GStreamer');
  // Three browsers render, and a machine that is lost is waited for.
  test.setTimeout(400_000);
  const { document } = await makeDemo(app);
  const id = await storeDocument(app, { ...document, presets: [{ id: 'small', name: 'Small', form: small }] });
  const address = `${app.address}/project/${id}/output`;
  await page.goto(address);
  await page.getByRole('radiogroup', { name: 'Preset' }).getByRole('radio', { name: 'Small' }).click();
  await page.getByRole('radiogroup', { name: 'Render on' }).getByRole('radio', { name: 'Server' }).click();
  await expect(page.getByText(/^No machine is connected/)).toBeVisible();
  await page.getByRole('button', { name: 'Render', exact: true }).click();
  const row = page.getByRole('listitem', { name: 'Marble film.mp4', exact: true });
  await expect(row.getByText('Waiting for a machine')).toBeVisible();
  // Wherever one is, a sign says that something is to be done.
  await expect(page.getByRole('link', { name: '1 server job' })).toBeVisible();
  await page.close();

  const start = (name: string, flags: readonly string[] = []): Promise<WorkerProcess> =>
    startWorker({ address: app.address, dataFolder: app.dataFolder, name, flags });
  const machine = async (wanted: string): Promise<Machine> =>
    ((await (await fetch(`${app.address}/api/machines`)).json()) as Machine[]).find(({ name }) => name === wanted)!;
  const workers = [await start('Desk'), await start('Laptop')];
  const job = async (): Promise<ServerJob> =>
    ((await (await fetch(`${app.address}/api/jobs`)).json()) as ServerJob[])[0]!;
  await expect.poll(async () => (await job()).parts?.done, { timeout: 90_000 }).toBeGreaterThan(0);
  // One is killed, the other sleeps in the middle of its part, as a laptop does; a slow one does what is left.
  workers[1]!.process.kill('SIGKILL');
  workers[0]!.process.kill('SIGSTOP');
  await app.kill();
  await app.restart();
  workers.push(await start('Telephone', ['--slowness', '5']));
  await expect.poll(async () => (await job()).state, { timeout: 180_000 }).toBe('done');
  // It wakes up with a part that is another's by now, leaves it, and asks for the next.
  const woken = Date.now();
  workers[0]!.process.kill('SIGCONT');
  await expect.poll(async () => Date.parse((await machine('Desk')).heardAt!)).toBeGreaterThan(woken);
  expect(workers[0]!.process.exitCode).toBeNull();
  expect((await job()).state).toBe('done');
  for (const worker of workers) await worker.stop();
  const whole = await inOnePiece(app, id, small);

  const later = await context.newPage();
  await later.goto(address);
  const ready = later.getByRole('listitem', { name: 'Marble film.mp4', exact: true });
  await expect(ready.getByText(/^Ready · /)).toBeVisible();
  await ready.getByRole('button', { name: 'Log of Marble film.mp4' }).click();
  await expect(ready.getByText(/The file is ready\.$/)).toBeVisible();
  const download = later.waitForEvent('download');
  await ready.getByRole('button', { name: 'Download Marble film.mp4' }).click();
  const made = join(await scratch(), 'film.mp4');
  await (await download).saveAs(made);
  await expectSame(whole, made, { ...small, frames: 640 });

  await ready.getByRole('button', { name: 'Use Marble film.mp4 as a source' }).click();
  await expect(later.getByText('Marble film.mp4 is in Footage.')).toBeVisible();
  await ready.getByRole('button', { name: 'Delete Marble film.mp4' }).click();
  await expect(ready).toHaveCount(0);
});

test('a machine whose browser was updated meanwhile says so, and renders as what it is now', async ({ app }) => {
  const { id, revision } = await makeDemo(app);
  const headers = { 'Content-Type': 'application/json' };
  const post = async <Answer>(path: string, body: object): Promise<Answer> =>
    (await (await fetch(`${app.address}/api${path}`, { method: 'POST', headers, body: JSON.stringify(body) })).json()) as Answer; // prettier-ignore
  const { key } = await post<NewMachineKey>('/machines', { name: 'Updated' });
  const render = { projectId: id, revision, file: 'Four.gif', form: { format: 'gif' }, span: { from: 0, to: 4 } };
  const job = await post<ServerJob>('/jobs', { render });
  const told = ['Chromium 1.0.0.0'];
  const stop = new AbortController();
  const machine = new HelpingMachine(
    {
      ...{ server: app.address, key, folder: await scratch(), say: () => undefined },
      facts: async () => {
        const facts = await machineFacts();
        return { ...facts, browser: told.shift() ?? facts.browser! };
      },
    },
    stop.signal,
  );
  const working = machine.work();
  const look = async (path = ''): Promise<ServerJob> =>
    (await (await fetch(`${app.address}/api/jobs/${job.id}${path}`)).json()) as ServerJob;
  await expect.poll(async () => (await look()).state).toBe('done');
  stop.abort();
  await working;
  expect(JSON.stringify(await look('/log'))).toMatch(/was updated from Chromium 1\.0\.0\.0 to Chromium \d+\./);
});

test('jobs are paused, put first, cancelled and started again by keyboard; machines are let in and put out', async ({
  page,
  app,
}) => {
  const { id, revision } = await makeDemo(app);
  for (const file of ['One.gif', 'Two.gif']) {
    const render = { projectId: id, revision, file, form: { format: 'gif' }, span: { from: 0, to: 20 } };
    const headers = { 'Content-Type': 'application/json' };
    await fetch(`${app.address}/api/jobs`, { method: 'POST', headers, body: JSON.stringify({ render }) });
  }
  await page.goto(`${app.address}/jobs`);
  const press = async (name: string): Promise<void> => {
    await page.getByRole('button', { name, exact: true }).focus();
    await page.keyboard.press('Enter');
  };
  const row = (name: string) => page.getByRole('listitem', { name, exact: true });
  await press('Pause One.gif');
  await expect(row('One.gif').getByText('Paused · 0 of 20 frames')).toBeVisible();
  await press('Resume One.gif');
  await expect(row('One.gif').getByText('Waiting for a machine')).toBeVisible();
  await press('Raise priority of Two.gif');
  await expect(row('Two.gif').getByText('Marble film · High priority')).toBeVisible();
  await press('Cancel One.gif');
  await expect(row('One.gif').getByText('Cancelled', { exact: true })).toBeVisible();
  await press('Start One.gif again');
  await expect(row('One.gif').getByText('Waiting for a machine')).toBeVisible();
  await press('Cancel One.gif');
  await press('Cancel Two.gif');
  await press('Delete Two.gif');
  await expect(row('Two.gif')).toHaveCount(0);

  await press('Add machine');
  await expect(page.getByRole('textbox', { name: 'Machine name' })).toBeFocused();
  await page.keyboard.type('Edit suite');
  await page.keyboard.press('Enter');
  const key = page.getByRole('group', { name: 'Key of Edit suite' });
  await expect(key.getByText(/^npm run worker -- --server http:\/\/127\.0\.0\.1:\d+ --key [\w.-]+$/)).toBeVisible();
  await expect(row('Edit suite').getByText('Never connected')).toBeVisible();
  await press('Remove Edit suite');
  await expect(row('Edit suite')).toHaveCount(0);
  await page.getByRole('textbox', { name: 'Parts at once, at most' }).fill('3');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await (await fetch(`${app.address}/api/jobs/settings`)).json()) as object)
    .toEqual({ atOnce: 3 });
});
