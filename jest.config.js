/** One Jest for all rooms; the app's tests run in jest-expo's web environment, the rest in Node. */
const nodeRoom = (name) => ({
  displayName: name,
  testEnvironment: 'node',
  rootDir: `<rootDir>/${name}`,
  testMatch: ['**/*.test.ts'],
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  transform: {
    '^.+\\.m?[jt]s$': [
      'babel-jest',
      {
        configFile: false,
        presets: [['@babel/preset-env', { targets: { node: 'current' } }], '@babel/preset-typescript'],
      },
    ],
  },
  // packages that come as ES modules only
  transformIgnorePatterns: [
    '/node_modules/(?!(@pace-check|d3-array|internmap|ml-[^/]+|cheminfo-types|is-any-array)/)',
  ],
  moduleNameMapper: { '^@pace-check/([^/]+)$': '<rootDir>/../$1/index.ts' },
});

module.exports = {
  // a limit for what hangs, not for what is slow: machines are shared
  testTimeout: 600_000,
  projects: [
    ...['core', 'contract', 'rig', 'cli', 'tools'].map(nodeRoom),
    { ...nodeRoom('server'), globalSetup: '<rootDir>/testing/globalSetup.ts' },
    {
      preset: 'jest-expo/web',
      displayName: 'app',
      setupFiles: ['<rootDir>/testing/browser.ts'],
      rootDir: '<rootDir>/app',
      testMatch: ['**/*.test.ts', '**/*.test.tsx'],
      transformIgnorePatterns: [
        '/node_modules/(?!((jest-)?react-native|@react-native(-community)?|expo(nent)?|@expo(nent)?/.*|@expo-google-fonts/.*|react-native-svg|@rneui|react-native-gifted-charts|gifted-charts-core|@pace-check|ml-[^/]+|cheminfo-types|is-any-array)/?)',
      ],
      moduleNameMapper: {
        '^lucide-react-native/icons/(.*)$':
          '<rootDir>/../node_modules/lucide-react-native/dist/cjs/icons/$1.js',
        // packages of ES modules that bring a plain form too
        '^d3-([a-z-]+)$': '<rootDir>/../node_modules/d3-$1/dist/d3-$1.js',
        '^@pace-check/([^/]+)$': '<rootDir>/../$1/index.ts',
      },
    },
  ],
};
