import { fileURLToPath } from 'node:url';
import type { Plugin } from 'esbuild';
import { compileKernels } from './compile';

const folder = fileURLToPath(new URL('..', import.meta.url));

/** Lets what is bundled import the kernels' code as bytes: `import bytes from '@hastig/kernels/code'`. */
export const kernelsPlugin: Plugin = {
  name: 'kernels',
  setup({ onResolve, onLoad }) {
    onResolve({ filter: /^@hastig\/kernels\/code$/ }, ({ path }) => ({ path, namespace: 'kernels' }));
    onLoad({ filter: /.*/, namespace: 'kernels' }, async () => ({
      contents: await compileKernels(folder),
      loader: 'binary',
    }));
  },
};
