import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { HttpProblem, unpackProject, type UnpackedProject } from '@hastig/server';
import { CommandFailed } from '../fail';

/** Reads a project file. Throws CommandFailed, which names it. */
async function read(path: string, folder?: string): Promise<UnpackedProject> {
  try {
    return await unpackProject(path, folder);
  } catch (error) {
    if (error instanceof HttpProblem)
      throw new CommandFailed(`${path}: ${[error.title, error.more.detail].filter(Boolean).join(' ')}`);
    const { code, message } = error as NodeJS.ErrnoException;
    throw new CommandFailed(`${path}: ${code === 'ENOENT' ? 'file not found' : message}`);
  }
}

/** The project of a file, whose media stay where they are. Throws CommandFailed. */
export const openProject = (path: string): Promise<UnpackedProject> => read(path);

/** Does something with a project and its media, which are taken away afterwards. Throws CommandFailed. */
export async function withProject<T>(path: string, task: (project: UnpackedProject) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-project-'));
  try {
    return await task(await read(path, folder));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
