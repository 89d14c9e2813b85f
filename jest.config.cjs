/** Plain packages run in Node; the client runs as jest-expo's web project with jsdom. */
const toCommonJs = [
  'babel-jest',
  {
    babelrc: false,
    configFile: false,
    presets: [['@babel/preset-env', { targets: { node: 'current' } }], '@babel/preset-typescript'],
    // By its file: workers are told of it as text.
    plugins: [require.resolve('./scripts/math-once.cjs')],
  },
];

// Packages that ship only as ES modules and are used by plain packages.
const esOnly = [
  'client-zip',
  'mediabunny',
  '@cfworker',
  '@mediabunny',
  '@tus',
  'ebur128-wasm',
  'srvx',
  'simplex-noise',
  '@hastig',
].join('|');

const plain = (name) => ({
  displayName: name,
  rootDir: `<rootDir>/${name}`,
  testEnvironment: 'node',
  testMatch: ['<rootDir>/**/*.test.ts'],
  transform: { '\\.[cm]?[jt]s$': toCommonJs },
  transformIgnorePatterns: [`/node_modules/(?!(${esOnly})/)`],
});

module.exports = {
  // Both of two cores: one less than there are is what jest takes of itself.
  maxWorkers: '100%',
  // Nothing is timed here: a machine that is busy with another test may take its time.
  testTimeout: 120_000,
  projects: [
    ...['contract', 'core', 'probe', 'engine', 'server', 'cli', 'worker', 'demo', 'launch'].map(plain),
    '<rootDir>/client',
  ],
};
