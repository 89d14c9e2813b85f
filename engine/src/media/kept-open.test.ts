import { KeptOpen } from './kept-open';

const closed: string[] = [];
const thing = (name: string) => ({ name, close: () => Promise.resolve(void closed.push(name)) });

beforeEach(() => {
  closed.length = 0;
});

describe('things kept open', () => {
  it('closes the one not used for longest where there are too many', async () => {
    const kept = new KeptOpen<string, ReturnType<typeof thing>>(2);
    await kept.add('a', Promise.resolve(thing('a'))).opening;
    await kept.add('b', Promise.resolve(thing('b'))).opening;
    kept.use('a');
    kept.peek('b');
    await kept.add('c', Promise.resolve(thing('c'))).opening;
    expect(kept.all().map(([key]) => key)).toEqual(expect.arrayContaining(['a', 'c']));
    expect(kept.use('b')).toBeUndefined();
    expect(closed).toEqual(['b']);
  });

  it('closes what is still being opened once it is open', async () => {
    const kept = new KeptOpen<number, ReturnType<typeof thing>>(3);
    let open: (value: ReturnType<typeof thing>) => void = () => undefined;
    kept.add(1, new Promise((resolve) => (open = resolve)));
    const closing = kept.close(1);
    expect(closed).toEqual([]);
    open(thing('late'));
    await closing;
    expect(closed).toEqual(['late']);
    expect(kept.peek(1)).toBeUndefined();
  });

  it('forgets what could not be opened, but not what came in its place', async () => {
    const kept = new KeptOpen<string, ReturnType<typeof thing>>(3);
    const failing = kept.add('a', Promise.reject<ReturnType<typeof thing>>(new Error('damaged')));
    const second = kept.add('a', Promise.resolve(thing('second')));
    await expect(failing.opening).rejects.toThrow('damaged');
    await second.opening;
    expect(kept.peek('a')?.name).toBe('second');
    await expect(kept.add('b', Promise.reject(new Error('cut short'))).opening).rejects.toThrow('cut short');
    expect(kept.use('b')).toBeUndefined();
    await kept.closeAll();
    expect(closed).toEqual(['second']);
  });
});
