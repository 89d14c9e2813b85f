import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';

const run = promisify(execFile);

let compiled: Promise<Uint8Array> | undefined;

/**
 * Compiles the kernels (AssemblyScript, with SIMD) to WebAssembly; once in a process.
 *
 * @param folder of this package
 * @throws what the compiler says
 */
export function compileKernels(folder: string): Promise<Uint8Array> {
  return (compiled ??= compileNow(folder));
}

async function compileNow(folder: string): Promise<Uint8Array> {
  const require = createRequire(join(folder, 'package.json'));
  const compiler = join(dirname(require.resolve('assemblyscript/package.json')), 'bin/asc.js');
  const out = await mkdtemp(join(tmpdir(), 'hastig-kernels-'));
  try {
    const file = join(out, 'kernels.wasm');
    // The stub's memory is never given back, which suits what is laid out once and used again.
    const how = ['-O3', '--noAssert', '--enable', 'simd', '--runtime', 'stub', '--outFile', file];
    await run(process.execPath, [compiler, 'index.ts', '--baseDir', join(folder, 'assembly'), ...how]);
    return await readFile(file);
  } finally {
    await rm(out, { recursive: true });
  }
}
