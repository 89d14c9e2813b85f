import { spawn } from 'node:child_process';
import { rootFolder } from './paths';

/** Checks the types of every package; two at a time, as there are usually two cores. */
const packages = [
  'contract',
  'core',
  'probe',
  'engine',
  'headless',
  'server',
  'client',
  'cli',
  'demo',
  'e2e',
  'scripts',
  'bench',
  'fuzz',
  // The tests of the plain packages, which are built for none of them.
  'tsconfig.tests.json',
];

function check(name: string): Promise<boolean> {
  const child = spawn('npx', ['--no-install', 'tsc', '-p', name], {
    cwd: rootFolder,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  return new Promise((resolve) => child.on('exit', (code) => resolve(code === 0)));
}

let ok = true;
const queue = [...packages];
async function work(): Promise<void> {
  for (let name = queue.shift(); name !== undefined; name = queue.shift()) ok = (await check(name)) && ok;
}
await Promise.all([work(), work()]);
process.exitCode = ok ? 0 : 1;
