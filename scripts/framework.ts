import { spawn, spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { packages } from '../server/src/convert/framework';
import { installPackage } from './debian';

/** Whether the general media framework is there, with what it decodes by. */
export function hasFramework(): boolean {
  const found = spawnSync('gst-discoverer-1.0', ['--help'], { stdio: 'ignore' }).status === 0;
  return found && spawnSync('gst-inspect-1.0', ['libav'], { stdio: 'ignore' }).status === 0;
}

/** Installs it where that may be done. Throws an Error that says what to install by hand where it may not. */
export function installFramework(): void {
  packages.forEach(installPackage);
}

/** The same beside what runs here. @returns whether it is there then */
export function installFrameworkBeside(): Promise<boolean> {
  const child = spawn(process.execPath, ['--import', 'tsx', fileURLToPath(import.meta.url), 'install'], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  return new Promise((resolve) => {
    child.once('error', () => resolve(false));
    child.once('exit', (code) => resolve(code === 0));
  });
}

if (process.argv[2] === 'install' && process.argv[1] === fileURLToPath(import.meta.url)) {
  try {
    installFramework();
  } catch (error) {
    console.error(`${(error as Error).message}\nUntil then files that browsers can’t decode aren’t converted.`);
    process.exitCode = 1;
  }
}
