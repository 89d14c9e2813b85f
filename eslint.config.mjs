import { createRequire } from 'node:module';
import prettier from 'eslint-config-prettier';
import tseslint from 'typescript-eslint';

const require = createRequire(import.meta.url);
const expo = require('eslint-config-expo/flat');

/** What a floor may not know: everything above it. */
const floors = {
  contract: ['core', 'probe', 'engine', 'headless', 'server', 'client', 'cli', 'demo'],
  core: ['probe', 'engine', 'headless', 'server', 'client', 'cli', 'demo'],
  probe: ['engine', 'headless', 'server', 'client', 'cli'],
  engine: ['headless', 'server', 'client', 'cli', 'demo'],
  headless: ['contract', 'core', 'probe', 'engine', 'server', 'client', 'cli', 'demo'],
  server: ['engine', 'headless', 'client', 'cli'],
  client: ['probe', 'headless', 'server', 'cli', 'demo'],
  demo: ['engine', 'server', 'client', 'cli', 'worker'],
  worker: ['client', 'cli', 'demo'],
};

export default tseslint.config(
  {
    ignores: [
      '**/node_modules',
      '**/dist',
      '**/.expo',
      '.data',
      'client/public',
      'test-results',
      'client/*.d.ts',
      'client/*.config.js',
      '**/.cache',
      'kernels/assembly',
    ],
  },
  ...tseslint.configs.recommended,
  ...expo.map((config) => ({ ...config, files: ['client/**/*.{ts,tsx}'] })),
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: 'error',
      'no-console': 'off',
    },
  },
  // A test of a lower floor may measure against a higher one; the code itself may not know it.
  ...Object.entries(floors).map(([floor, above]) => ({
    files: [`${floor}/src/**/*.{ts,tsx}`],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: above.map((name) => ({
            group: [`@hastig/${name}`, `@hastig/${name}/*`],
            message: `${floor} does not know ${name}`,
          })),
        },
      ],
    },
  })),
  {
    files: ['client/src/**/*.{ts,tsx}', 'client/app/**/*.{ts,tsx}'],
    rules: {
      // What the compiler sees, and sooner.
      'import/no-unresolved': 'off',
      'import/namespace': 'off',
      'import/no-named-as-default': 'off',
      'import/no-named-as-default-member': 'off',
      // Trying an edit out depends on the numbers in it, not on the objects that carry them.
      'react-hooks/exhaustive-deps': 'off',
      'react-hooks/refs': 'off',
      // Nothing here is compiled by it.
      'react-hooks/incompatible-library': 'off',
    },
  },
  {
    // A stream that fails before anyone listens ends the server.
    files: ['server/src/**/*.ts'],
    ignores: ['server/src/files/streams.ts', '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'ImportSpecifier[imported.name=/^(pipeline|createReadStream|createWriteStream|finished)$/]',
          message: 'Streams are begun through files/streams.ts only.',
        },
        {
          selector: "CallExpression[callee.property.name='pipe']",
          message: 'Streams are carried on by files/streams.ts, which hears what fails.',
        },
      ],
    },
  },
  { files: ['**/*.config.{js,cjs,mjs}', 'client/*.js'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  prettier,
);
