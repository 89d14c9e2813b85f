module.exports = {
  displayName: 'client',
  preset: 'jest-expo/web',
  testMatch: ['<rootDir>/src/**/*.test.{ts,tsx}'],
  // Icons come as .mjs, which the preset leaves alone.
  transform: { '\\.mjs$': 'babel-jest' },
  setupFiles: ['<rootDir>/test/setup.ts'],
  setupFilesAfterEnv: ['@testing-library/jest-dom'],
  transformIgnorePatterns: [
    'node_modules/(?!((jest-)?react-native|@react-native(-community)?|expo|@expo|@expo-google-fonts|react-navigation|@react-navigation|standard-navigation|nativewind|react-native-css-interop|lucide-react-native|mediabunny|@mediabunny|@cfworker|comlink|@hastig|immer|idb-keyval|idb|fake-indexeddb)/?)',
  ],
};
