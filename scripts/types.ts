import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { rootFolder } from './paths';

/** Checks the types of every package, with the compiler that is built for the machine. */
const packages = [
  'contract',
  'core',
  'probe',
  'kernels',
  'engine',
  'headless',
  'server',
  'client',
  'cli',
  'worker',
  'demo',
  'e2e',
  'scripts',
  'bench',
  'fuzz',
  'fit',
  // The tests of the plain packages, which are built for none of them.
  'tsconfig.tests.json',
];

// The linter reads types with the compiler that is written in TypeScript; this one takes a seventh of the time.
const compiler = join(rootFolder, 'node_modules/typescript-native/bin/tsc');
const wrong = packages.filter(
  (name) => spawnSync(process.execPath, [compiler, '-p', name], { cwd: rootFolder, stdio: 'inherit' }).status !== 0,
);
process.exitCode = wrong.length === 0 ? 0 : 1;
