// Plain JavaScript: what starts TypeScript can't be any itself. Its types are in `bundled.d.mts`.
import { createHash, randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { isBuiltin } from 'node:module';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';

/** Where programs are kept: with what is installed, and gone with it. */
function cacheFor(entry) {
  let root = dirname(entry);
  while (!existsSync(join(root, 'package-lock.json')) && root !== dirname(root)) root = dirname(root);
  return join(root, 'node_modules/.cache/hastig-programs');
}
/** Milliseconds for which a program is kept that nobody starts. */
const KEPT = 30 * 24 * 3600_000;

/** Folders whose modules may ask where they are; those that compute and show know nothing of files. */
const PLACED = /\/(cli|demo|headless|kernels|scripts|server|worker)\/.*\.ts$/;

/** What is ours becomes part of the program; what is installed is loaded by Node from where it is. */
const ours = {
  name: 'ours',
  setup(build) {
    build.onResolve({ filter: /^[^./]/ }, async ({ path, resolveDir, kind, pluginData }) => {
      if (isBuiltin(path)) return { path, external: true };
      if (path.startsWith('@hastig/') || pluginData === ours || kind === 'entry-point') return undefined;
      const found = await build.resolve(path, { resolveDir, kind, pluginData: ours });
      return found.errors.length > 0 ? found : { path: pathToFileURL(found.path).href, external: true };
    });
    build.onLoad({ filter: PLACED }, async ({ path }) => {
      const text = await readFile(path, 'utf8');
      const url = JSON.stringify(pathToFileURL(path).href);
      return { contents: text.replaceAll('import.meta.url', url), loader: 'ts', resolveDir: dirname(path) };
    });
  },
};

export async function bundled(entry) {
  const cache = cacheFor(entry);
  const { outputFiles } = await build({
    ...{ entryPoints: { main: entry }, bundle: true, splitting: true, write: false, outdir: cache },
    ...{ platform: 'node', format: 'esm', target: 'node20', outExtension: { '.js': '.mjs' } },
    // Of a package that has several forms the one that Node takes.
    ...{ conditions: [], mainFields: ['main'] },
    ...{ sourcemap: 'linked', logLevel: 'silent', plugins: [ours] },
  });
  const hash = createHash('sha256');
  for (const { path, contents } of outputFiles) hash.update(path).update(contents);
  const folder = join(cache, hash.digest('hex').slice(0, 32));
  const program = join(folder, 'main.mjs');
  const now = new Date();
  // A folder that is there is whole: it was put there at once.
  if (await utimes(folder, now, now).then(() => true, () => false)) return program; // prettier-ignore
  const part = `${folder}.${randomUUID()}`;
  try {
    await mkdir(part, { recursive: true });
    for (const { path, contents } of outputFiles) await writeFile(join(part, path.slice(cache.length + 1)), contents);
    await rename(part, folder);
  } catch (error) {
    await rm(part, { recursive: true, force: true });
    // Another process was sooner.
    if (!['EEXIST', 'ENOTEMPTY'].includes(error.code)) throw error;
  }
  await tidy(cache);
  return program;
}

async function tidy(cache) {
  for (const name of await readdir(cache)) {
    const path = join(cache, name);
    const { mtimeMs } = await stat(path).catch(() => ({ mtimeMs: Infinity }));
    if (Date.now() - mtimeMs > KEPT) await rm(path, { recursive: true, force: true });
  }
}
