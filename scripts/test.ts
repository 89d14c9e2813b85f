import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import lockfile from 'proper-lockfile';
import { findChromium } from '@hastig/headless';
import { buildClient } from './build';
import { startDatabase } from './database';
import { installPackage } from './debian';
import { hasFramework, installFramework } from './framework';
import { dataFolder, rootFolder } from './paths';

/** Runs types, lint, unit and end-to-end tests; all set-up of its own. `--long`: with proofs that take their time. Ends with one line of counts. */

const counts = { passed: 0, failed: 0 };
const resultFolder = join(rootFolder, 'test-results');

function run(
  title: string,
  command: string,
  args: string[],
  environment: Record<string, string> = {},
  cwd = rootFolder,
): Promise<boolean> {
  console.log(`\n── ${title}`);
  const child = spawn(command, args, {
    cwd,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...environment },
  });
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('exit', (code) => resolve(code === 0));
  });
}

/** A check without cases of its own (types, lint) counts as one. */
async function check(title: string, command: string, args: string[]): Promise<void> {
  counts[(await run(title, command, args)) ? 'passed' : 'failed']++;
}

function add(
  ok: boolean,
  file: string,
  read: (report: Record<string, never>) => { passed: number; failed: number },
): void {
  const found = existsSync(file)
    ? read(JSON.parse(readFileSync(file, 'utf8')) as Record<string, never>)
    : { passed: 0, failed: 1 };
  counts.passed += found.passed;
  counts.failed += found.failed;
  // A runner that fails without a failed case (nothing found, a broken file) fails all the same.
  if (!ok && found.failed === 0) counts.failed++;
}

function ensureChromium(): void {
  try {
    findChromium();
  } catch {
    try {
      installPackage('chromium-headless-shell');
    } catch {
      // Older releases of Debian have it in one piece only.
      installPackage('chromium');
    }
    findChromium();
  }
}

/** The general media framework reads what was rendered, and converts. */
function ensureFramework(): void {
  if (hasFramework()) return;
  try {
    installFramework();
  } catch (error) {
    console.error(`${(error as Error).message}\nWhat was rendered is not read by another reader in this run.`);
  }
}

mkdirSync(dataFolder, { recursive: true });
rmSync(resultFolder, { recursive: true, force: true });
mkdirSync(resultFolder, { recursive: true });
ensureChromium();
ensureFramework();
// Two test runs in one folder would share a database; the second waits.
const release = await lockfile.lock(dataFolder, {
  lockfilePath: join(dataFolder, 'test.lock'),
  stale: 10_000,
  update: 2000,
  retries: { retries: 1000, minTimeout: 2000, maxTimeout: 2000 },
});
const npx = (...args: string[]): [string, string[]] => ['npx', ['--no-install', ...args]];

async function checks(): Promise<void> {
  await check('Types', ...npx('tsx', 'scripts/types.ts'));
  await check('ESLint', ...npx('eslint', '.', '--max-warnings', '0'));
  await check('Exports that nobody uses', ...npx('knip', '--include', 'exports,types', '--no-config-hints'));
  await check('Prettier', ...npx('prettier', '--check', '--log-level', 'warn', '.'));
}

// Building is one long task on one core, the checks are others; the unit tests need neither the one nor the others.
const checked = checks();
const [database] = await Promise.all([startDatabase(join(dataFolder, 'test-database')), buildClient()]);
// Proofs that take a minute each are wished for; a smaller one of each runs every time.
const long = process.argv.includes('--long');
const environment = { TEST_DATABASE_URL: database.url, ...(long && { HASTIG_LONG: '1' }) };
try {
  const unitReport = join(resultFolder, 'unit.json');
  const unit = await run('Unit tests', ...npx('jest', '--json', `--outputFile=${unitReport}`), environment);
  add(unit, unitReport, (report) => ({
    passed: Number(report.numPassedTests),
    failed: Number(report.numFailedTests) + Number(report.numRuntimeErrorTestSuites),
  }));
  await checked;
  const e2eReport = join(resultFolder, 'e2e.json');
  const e2e = await run('End-to-end tests', ...npx('playwright', 'test'), environment, join(rootFolder, 'e2e'));
  add(e2e, e2eReport, ({ stats }: Record<string, { expected: number; flaky: number; unexpected: number }>) => ({
    passed: stats!.expected + stats!.flaky,
    failed: stats!.unexpected,
  }));
  const fuzzReport = join(resultFolder, 'fuzz.json');
  // The same seed every time, and requests and media with one that nobody has tried.
  for (const amounts of [
    ['--requests', '400', '--media', '40', '--archives', '20', '--actions', '40', '--seed', '1'],
    ['--requests', '200', '--media', '20', '--archives', '10', '--times', '100', '--actions', '0', '--no-costs'],
  ]) {
    rmSync(fuzzReport, { force: true });
    const fuzz = await run('Tries at random', ...npx('tsx', 'fuzz/run.ts', ...amounts, '--report', fuzzReport));
    add(fuzz, fuzzReport, (report) => ({ passed: Number(report.passed), failed: Number(report.failed) }));
  }
} finally {
  database.stop();
  await release();
}

console.log(`\ntests: ${counts.passed} passed, ${counts.failed} failed`);
process.exitCode = counts.failed === 0 ? 0 : 1;
