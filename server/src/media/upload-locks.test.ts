import { UploadLocks } from './upload-locks';

const never = new AbortController().signal;
const turns = () => new Promise((resolve) => setImmediate(resolve));

it('gives an upload to one request after the other, asks whoever holds it to let go, and waits without working', async () => {
  const locks = new UploadLocks();
  const [first, second, third] = [1, 2, 3].map(() => locks.newLock('upload'));
  const asked: string[] = [];
  const order: string[] = [];
  await first!.lock(never, () => void asked.push('first'));
  const waiting = [
    second!.lock(never, () => void asked.push('second')).then(() => order.push('second')),
    third!.lock(never, () => void asked.push('third')).then(() => order.push('third')),
  ];
  await turns();
  expect(asked).toEqual(['first', 'first']);
  expect(order).toEqual([]);
  await first!.unlock();
  await waiting[0];
  // The third has waited all along.
  expect(asked.at(-1)).toBe('second');
  await second!.unlock();
  await waiting[1];
  expect(order).toEqual(['second', 'third']);
  await third!.unlock();
  // Another upload waits for nobody.
  await locks.newLock('other').lock(never, () => undefined);
});

it('is left by a request that goes away while it waits', async () => {
  const locks = new UploadLocks();
  const [holder, waiter, next] = [1, 2, 3].map(() => locks.newLock('upload'));
  await holder!.lock(never, () => undefined);
  const gone = new AbortController();
  const waiting = waiter!.lock(gone.signal, () => undefined);
  gone.abort();
  await holder!.unlock();
  await expect(waiting).rejects.toMatchObject({ status: 423 });
  await next!.lock(never, () => undefined);
});
