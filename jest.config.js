const { join } = require('node:path');

/** What was transformed is kept beside the project’s other data: a clone that goes away takes it along. */
const cacheDirectory = join(__dirname, '.data', 'jest');
const dependencyExtractor = join(__dirname, 'tools', 'jest', 'barrelDependencies.cjs');

/** Rooms that a room’s tests depend on: Jest looks for what a change can break in these, too. */
const roots = (name, ...others) => [name, ...others].map((room) => `<rootDir>/../${room}`);
const BELOW = { core: [], contract: ['core'], rig: ['contract', 'core'], cli: ['contract', 'core', 'rig'] };

/** One Jest for all rooms; the app's tests run in jest-expo's web environment, the rest in Node. */
const nodeRoom = (name) => ({
  displayName: name,
  cacheDirectory,
  testEnvironment: 'node',
  rootDir: `<rootDir>/${name}`,
  roots: roots(name, ...(BELOW[name] ?? ['contract', 'core', 'rig'])),
  testMatch: ['<rootDir>/**/*.test.ts'],
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  modulePathIgnorePatterns: ['<rootDir>/dist/'],
  transform: { '^.+\\.m?[jt]s$': join(__dirname, 'tools', 'jest', 'fastTransform.cjs') },
  // packages that come as ES modules only
  transformIgnorePatterns: [
    '/node_modules/(?!(@pace-check|d3-array|internmap|ml-[^/]+|cheminfo-types|is-any-array)/)',
  ],
  dependencyExtractor,
  moduleNameMapper: {
    '^@pace-check/([^/]+)$': '<rootDir>/../$1/index.ts',
    '^@pace-check/(.+)$': '<rootDir>/../$1',
  },
});

module.exports = {
  // a limit for what hangs, not for what is slow: machines are shared
  testTimeout: 600_000,
  testSequencer: '<rootDir>/tools/jest/longestFirst.cjs',
  projects: [
    ...['core', 'contract', 'rig', 'cli', 'tools'].map(nodeRoom),
    {
      ...nodeRoom('server'),
      globalSetup: '<rootDir>/testing/globalSetup.ts',
      globalTeardown: '<rootDir>/testing/globalTeardown.ts',
    },
    {
      preset: 'jest-expo/web',
      displayName: 'app',
      cacheDirectory,
      dependencyExtractor,
      setupFiles: ['<rootDir>/testing/browser.ts'],
      rootDir: '<rootDir>/app',
      roots: roots('app', 'contract', 'core'),
      testMatch: ['<rootDir>/**/*.test.ts', '<rootDir>/**/*.test.tsx'],
      modulePathIgnorePatterns: ['<rootDir>/dist/'],
      transformIgnorePatterns: [
        '/node_modules/(?!((jest-)?react-native|@react-native(-community)?|expo(nent)?|@expo(nent)?/.*|@expo-google-fonts/.*|react-native-svg|@rneui|react-native-gifted-charts|gifted-charts-core|@pace-check|ml-[^/]+|cheminfo-types|is-any-array)/?)',
      ],
      moduleNameMapper: {
        '^lucide-react-native/icons/(.*)$':
          '<rootDir>/../node_modules/lucide-react-native/dist/cjs/icons/$1.js',
        // packages of ES modules that bring a plain form too
        '^d3-([a-z-]+)$': '<rootDir>/../node_modules/d3-$1/dist/d3-$1.js',
        '^@pace-check/([^/]+)$': '<rootDir>/../$1/index.ts',
        '^@pace-check/(.+)$': '<rootDir>/../$1',
      },
    },
  ],
};
