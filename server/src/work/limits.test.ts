import { spawnSync } from 'node:child_process';
import { join } from 'node:path';

/** Runs a task within limits, in a process of its own. @returns the signal that ended it, or its status */
function end(task: string, limit: number): string | number | null {
  const code = `
    import { watchLimits, within } from ${JSON.stringify(join(__dirname, 'limits.ts'))};
    watchLimits();
    await within(${limit}, async () => { ${task} });`;
  const { signal, status } = spawnSync(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', code], {
    timeout: 60_000,
  });
  return signal ?? status;
}

describe('a process with limits', () => {
  it('is ended when its task takes more of a core than it may', () => {
    expect(end('for (;;);', 200)).toBe('SIGXCPU');
  });

  it('is not, where its task only waits: a machine that is busy takes nothing away from it', () => {
    expect(end('await new Promise((resolve) => setTimeout(resolve, 600));', 300)).toBe(0);
  });

  it('is ended when it holds more than it may', () => {
    expect(end('const held = []; for (;;) held.push(Buffer.alloc(2 ** 24, 1));', 60_000)).toBe('SIGKILL');
  });
});
