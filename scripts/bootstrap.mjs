// The only script that runs before anything is installed: plain Node, no packages.
// Installs the npm packages when the lockfile is not the one that was installed last, then runs a command.
import { createHash } from 'node:crypto';
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const commands = {
  start: 'scripts/start.ts',
  test: 'scripts/test.ts',
  dev: 'scripts/dev.ts',
  demo: 'demo/src/generate.ts',
  bench: 'bench/run.ts',
  fuzz: 'fuzz/run.ts',
  fit: 'fit/run.ts',
  fixtures: 'e2e/fixtures/make.ts',
  screenshots: 'scripts/screenshots.ts',
  hastig: 'cli/src/main.ts',
  worker: 'worker/src/main.ts',
};

const [major, minor] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19)) {
  console.error(`Hastig needs Node 20.19 or newer; this is ${process.versions.node}.`);
  process.exit(1);
}

const [name, ...args] = process.argv.slice(2);
if (!(name in commands)) {
  console.error(`Commands: ${Object.keys(commands).join(', ')}`);
  process.exit(1);
}

const mark = join(root, 'node_modules', '.hastig-installed');
const wanted = createHash('sha256')
  .update(readFileSync(join(root, 'package-lock.json')))
  .digest('hex');
const installed = () => existsSync(mark) && readFileSync(mark, 'utf8') === wanted;

const wait = (milliseconds) => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, milliseconds);
const STALE = 15 * 60_000;

/** Whether whoever installs is gone: ended in the middle, or for so long that its number may be another's. */
function isLeft(lock) {
  try {
    if (Date.now() - statSync(lock).mtimeMs > STALE) return true;
    process.kill(Number(readFileSync(join(lock, 'process'), 'utf8')), 0);
    return false;
  } catch (error) {
    return error.code === 'ESRCH';
  }
}

// Making a folder is atomic, so of two commands at once one installs and the other waits.
function install() {
  const lock = join(root, '.installing');
  for (let told = false; ; told = true) {
    try {
      mkdirSync(lock);
      writeFileSync(join(lock, 'process'), String(process.pid));
      break;
    } catch {
      if (installed()) return;
      if (isLeft(lock)) rmSync(lock, { recursive: true, force: true });
      else if (!told) console.error('Waiting for another command that is installing packages…');
      wait(500);
    }
  }
  try {
    if (installed()) return;
    console.error('Installing packages…');
    const { status } = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
      cwd: root,
      stdio: ['ignore', process.stderr, process.stderr],
    });
    if (status !== 0) {
      console.error('The npm packages could not be installed; see above.');
      process.exitCode = 1;
      throw new Error('npm ci failed');
    }
    writeFileSync(mark, wanted);
  } finally {
    rmSync(lock, { recursive: true, force: true });
  }
}

if (!installed()) install();

// What people start in the middle of their work starts at once; what is for us is loaded module by module.
const isBundled = ['start', 'hastig', 'worker'].includes(name);
const entry = join(root, commands[name]);
const tsx = pathToFileURL(join(root, 'node_modules', 'tsx', 'dist', 'loader.mjs')).href;
const inModules = ['--import', tsx, entry];
const inOne = async () => ['--enable-source-maps', await (await import('../launch/src/bundled.mjs')).bundled(entry)];
// Where it can't be kept (no room, no right to write there) it starts as well, if not at once.
const program = isBundled ? await inOne().catch(() => inModules) : inModules;
const child = spawn(process.execPath, [...program, ...args], { stdio: 'inherit' });
// A signal from the terminal reaches the child by itself; one sent to this process is passed on.
for (const signal of ['SIGTERM', 'SIGHUP']) process.on(signal, () => child.kill(signal));
process.on('SIGINT', () => undefined);
// npm runs this in a shell, and only the shell hears of a signal sent to npm. When the shell is gone, so is whoever asked.
const parent = process.ppid;
setInterval(() => {
  if (process.ppid !== parent) child.kill('SIGTERM');
}, 500).unref();
child.on('exit', (code, signal) => process.exit(code ?? (signal ? 130 : 1)));
