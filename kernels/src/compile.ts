import { execFile } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import { mkdir, readdir, readFile, rename, rm } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';

const run = promisify(execFile);

// The stub's memory is never given back, which suits what is laid out once and used again.
const how = ['-O3', '--noAssert', '--enable', 'simd', '--runtime', 'stub'];

let compiled: Promise<Uint8Array> | undefined;

/**
 * Compiles the kernels (AssemblyScript, with SIMD) to WebAssembly; once for what they are, kept in `build` of this package: it takes
 * seconds, and every command would wait for it.
 *
 * @param folder of this package, absolute
 * @throws what the compiler says
 */
export function compileKernels(folder: string): Promise<Uint8Array> {
  return (compiled ??= keptOrCompiled(folder));
}

async function keptOrCompiled(folder: string): Promise<Uint8Array> {
  const compiler = createRequire(join(folder, 'package.json')).resolve('assemblyscript/package.json');
  const [assembly, kept] = [join(folder, 'assembly'), join(folder, 'build')];
  const digest = createHash('sha256')
    .update(await readFile(compiler))
    .update(how.join(' '));
  for (const name of (await readdir(assembly)).sort()) digest.update(name).update(await readFile(join(assembly, name)));
  const file = join(kept, `${digest.digest('hex').slice(0, 16)}.wasm`);
  return readFile(file).catch(() => compileNow(join(dirname(compiler), 'bin/asc.js'), assembly, kept, file));
}

async function compileNow(compiler: string, assembly: string, kept: string, file: string): Promise<Uint8Array> {
  await mkdir(kept, { recursive: true });
  // Several may compile at once; each puts a whole file in its place.
  const part = join(kept, `${randomUUID()}.part`);
  try {
    await run(process.execPath, [compiler, 'index.ts', '--baseDir', assembly, ...how, '--outFile', part]);
    await rename(part, file);
  } finally {
    await rm(part, { force: true });
  }
  return await readFile(file);
}
