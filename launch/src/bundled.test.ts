import { execFile } from 'node:child_process';
import { mkdir, mkdtemp, readdir, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';
import { bundled } from './bundled.mjs';

const run = promisify(execFile);

describe('a program', () => {
  let root: string;
  const write = async (path: string, text: string): Promise<string> => {
    const file = join(root, path);
    await mkdir(dirname(file), { recursive: true });
    await writeFile(file, text);
    return file;
  };
  const said = async (program: string): Promise<string> => (await run(process.execPath, [program])).stdout.trim();
  const installed = async (folder: string, says: string): Promise<void> => {
    const forms = { import: './node.mjs', require: './node.cjs' };
    await write(`${folder}/thing/package.json`, JSON.stringify({ name: 'thing', exports: { module: './other.mjs', ...forms } })); // prettier-ignore
    await write(`${folder}/thing/node.mjs`, `export const thing = ${JSON.stringify(says)};`);
    await write(`${folder}/thing/node.cjs`, 'throw new Error("the wrong form");');
    await write(`${folder}/thing/other.mjs`, 'throw new Error("not for Node");');
  };
  beforeEach(async () => {
    root = await mkdtemp(join(tmpdir(), 'launch-'));
    await write('package-lock.json', '{}');
  });
  afterEach(() => rm(root, { recursive: true }));

  it('is made of modules, each with what is installed for it, and knows where they are', async () => {
    await installed('node_modules', 'for all');
    await installed('server/node_modules', 'for the server');
    await write('core/src/core.ts', `import { thing } from 'thing'; export const core: string = thing;`);
    const entry = await write(
      'server/src/main.ts',
      `import { basename } from 'node:path'; import { thing } from 'thing'; import { core } from '../../core/src/core';
       const { late } = await import('./late'); console.log(core, thing, late, basename(import.meta.url));`,
    );
    await write('server/src/late.ts', `export const late: string = import.meta.url.slice(-7);`);
    expect(await said(await bundled(entry))).toBe('for all for the server late.ts main.ts');
  });

  it('is the same for the same sources, whoever asks first', async () => {
    const entry = await write('cli/main.ts', 'console.log(1);');
    const programs = await Promise.all([1, 2, 3].map(() => bundled(entry)));
    expect(new Set(programs).size).toBe(1);
    expect(await readdir(dirname(dirname(programs[0]!)))).toHaveLength(1);
  });

  it('that nobody started for a month is taken away when another is made', async () => {
    const first = await bundled(await write('cli/main.ts', 'console.log(1);'));
    const cache = dirname(dirname(first));
    const [recent, old] = [join(cache, 'recent'), join(cache, 'old')];
    for (const folder of [recent, old]) await mkdir(folder);
    const then = new Date(Date.now() - 31 * 24 * 3600_000);
    await utimes(old, then, then);
    await bundled(await write('cli/other.ts', 'console.log(2);'));
    expect(await readdir(cache)).toEqual(expect.arrayContaining(['recent']));
    expect(await readdir(cache)).not.toContain('old');
    expect(await said(first)).toBe('1');
  });

  it('is none where its sources are wrong, and nothing is left of it', async () => {
    const entry = await write('cli/main.ts', `import { gone } from './gone'; console.log(gone);`);
    await expect(bundled(entry)).rejects.toThrow(/Could not resolve ".\/gone"/);
    await expect(readdir(join(root, 'node_modules'))).rejects.toThrow('ENOENT');
    await expect(bundled(await write('cli/odd.ts', 'const = 3;'))).rejects.toThrow(/Expected identifier/);
  });
});
