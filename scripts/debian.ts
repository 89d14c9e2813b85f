import { spawnSync } from 'node:child_process';

const isRoot = process.getuid?.() === 0;

function run(command: string, args: string[]): boolean {
  const [program, rest] = isRoot ? [command, args] : ['sudo', ['-n', command, ...args]];
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  return spawnSync(program, rest, { stdio: ['ignore', 'ignore', 'inherit'], env: environment }).status === 0;
}

/**
 * Installs a Debian package, as root or through sudo.
 *
 * @throws an Error that says what to install by hand where neither is possible
 */
export function installPackage(name: string): void {
  console.error(`Installing Debian's package ${name} …`);
  const install = ['install', '-y', '--no-install-recommends', name];
  if (run('apt-get', install) || (run('apt-get', ['update', '-qq']) && run('apt-get', install))) return;
  throw new Error(
    `Debian's package "${name}" is missing and could not be installed. Run as root: apt-get install ${name}`,
  );
}
