import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
import { kernelsPlugin } from '@hastig/kernels/plugin';
import { build } from 'esbuild';
import { buildPages } from './pages';
import { clientBuild, clientFolder, dataFolder, engineBuild, handbookBuild, noticesBuild, rootFolder } from './paths';

/** What the client is built from. */
const inputs = [
  'docs/handbook',
  'docs/screenshots',
  'client',
  'engine',
  'core',
  'contract',
  'probe',
  'kernels',
  'package-lock.json',
];
const notInputs = new Set(['node_modules', 'dist', '.expo']);
const built = new Set([engineBuild, handbookBuild, noticesBuild]);

async function* filesIn(path: string): AsyncGenerator<string> {
  const entries = await readdir(path, { withFileTypes: true });
  for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) {
    const inner = join(path, entry.name);
    if (entry.isDirectory()) {
      if (!notInputs.has(entry.name) && !built.has(inner)) yield* filesIn(inner);
    } else if (!/\.test\.tsx?$/.test(entry.name) && !built.has(inner)) {
      yield inner;
    }
  }
}

async function fingerprint(): Promise<string> {
  const hash = createHash('sha256');
  for (const input of inputs) {
    const path = join(rootFolder, input);
    const files = input.includes('.') ? [path] : filesIn(path);
    for await (const file of files) hash.update(file.slice(rootFolder.length)).update(await readFile(file));
  }
  return hash.digest('hex');
}

/** Bundles the engine's worker into the client's public files. */
async function buildEngine(): Promise<void> {
  await rm(engineBuild, { recursive: true, force: true });
  await build({
    entryPoints: [join(rootFolder, 'engine/src/worker/engine.worker.ts')],
    outdir: engineBuild,
    bundle: true,
    minify: true,
    // What few workers need is a file of its own, loaded when it is needed.
    format: 'esm',
    splitting: true,
    target: 'es2022',
    plugins: [kernelsPlugin],
    logLevel: 'error',
  });
}

const compressed = /\.(js|css|html|ttf|json|txt)$/;
const toBrotli = promisify(brotliCompress);

/** Lays a compressed copy beside each file, so that the server need not compress it for each who asks. */
async function compressFiles(folder: string): Promise<void> {
  for await (const file of filesIn(folder)) {
    if (!compressed.test(file)) continue;
    const packed = await toBrotli(await readFile(file), { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } });
    await writeFile(`${file}.br`, packed);
  }
}

/** Builds engine and client, unless they are built from these very sources already. */
export async function buildClient(): Promise<void> {
  const mark = join(dataFolder, 'client-build');
  const wanted = await fingerprint();
  if (existsSync(join(clientBuild, 'index.html')) && existsSync(mark) && (await readFile(mark, 'utf8')) === wanted)
    return;
  console.error('Building the client (a minute or two the first time)…');
  await rm(mark, { force: true });
  await buildEngine();
  await buildPages();
  await exportClient();
  await compressFiles(clientBuild);
  await mkdir(dataFolder, { recursive: true });
  await writeFile(mark, wanted);
}

function exportClient(): Promise<void> {
  const environment = { ...process.env, CI: '1', EXPO_NO_TELEMETRY: '1', EXPO_OFFLINE: '1', NODE_ENV: 'production' };
  const child = spawn('npx', ['expo', 'export', '-p', 'web', '--output-dir', 'dist'], {
    cwd: clientFolder,
    env: environment,
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let output = '';
  child.stdout.on('data', (piece) => (output += piece));
  child.stderr.on('data', (piece) => (output += piece));
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`Building the client failed:\n${output}`))));
  });
}
