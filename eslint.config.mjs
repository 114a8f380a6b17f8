import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const ROOMS = ['core', 'contract', 'server', 'app', 'rig', 'cli', 'e2e', 'tools'];

/**
 * The arrows between the rooms (docs/architecture.md): which rooms a room may
 * import, by value or by type alone, and which packages core may use.
 */
const ARROWS = {
  core: {
    values: [],
    types: [],
    packages: [
      '@stdlib/stats-base-dists-t-quantile',
      '@stdlib/stats-base-dists-t-cdf',
      '@stdlib/stats-base-dists-beta-quantile',
      // a table that is pasted has quotes as spreadsheets write them
      'papaparse',
    ],
  },
  // of core's values the contract takes limits and closed lists alone
  contract: { values: ['core'], types: [] },
  server: { values: ['contract', 'core'], types: [] },
  app: { values: ['contract', 'core'], types: [] },
  rig: { values: ['contract', 'core'], types: [] },
  cli: { values: ['contract', 'core', 'rig'], types: [] },
  e2e: { values: ['contract', 'core', 'rig'], types: [] },
  tools: { values: ['contract', 'core', 'rig'], types: [] },
};

/** Screens of the app: what two of them need lies in forms, charts, shell or ui. */
const FEATURES = ['bench', 'cards', 'kit', 'runs', 'settings'];
const BELOW_FEATURES = ['api', 'charts', 'forms', 'offline', 'outbox', 'ui'];

/** A folder of the app, which may not enter these. */
function closedTo(folder, others) {
  const enters = {
    regex: `^(\\.\\./)+(features/)?(${others.join('|')})/`,
    message: 'Features do not import each other, and nothing below imports them: move down what two need.',
  };
  const [{ rules, ignores }] = [arrows('app')];
  const [level, options] = rules['@typescript-eslint/no-restricted-imports'];
  return {
    files: [`app/${folder}/**/*.{ts,tsx}`],
    ignores,
    rules: {
      '@typescript-eslint/no-restricted-imports': [level, { patterns: [...options.patterns, enters] }],
    },
  };
}

function arrows(room) {
  const { values, types, packages } = ARROWS[room];
  const closed = ROOMS.filter((other) => !values.includes(other) && !types.includes(other));
  const patterns = [
    {
      regex: `^(\\.\\./)+(${ROOMS.join('|')})(/|$)`,
      message: 'Enter another room by its name, @pace-check/…, not by a path.',
    },
    {
      regex: `^@pace-check/(${closed.join('|')})(/|$)`,
      message: `${room} may not import this room: docs/architecture.md has the arrows.`,
    },
    ...(types.length > 0
      ? [
          {
            regex: `^@pace-check/(${types.join('|')})(/|$)`,
            allowTypeImports: true,
            message: `${room} may import only types of this room.`,
          },
        ]
      : []),
    ...(packages
      ? [
          {
            regex: `^(?!\\.|@pace-check/${packages.map((name) => `|${name}$`).join('')})`,
            message:
              'core uses small packages of numbers and tables alone; add one to ARROWS with a decision in docs/decisions/.',
          },
        ]
      : []),
  ];
  return {
    files: [`${room}/**/*.{ts,tsx}`],
    // tests may use whatever shows the truth
    ignores: ['**/*.test.ts', '**/*.test.tsx', 'server/testing/**'],
    rules: { '@typescript-eslint/no-restricted-imports': ['error', { patterns }] },
  };
}

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '**/.expo/**', '.data/**', '**/*.d.ts'] },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      eqeqeq: 'error',
      'no-empty': ['error', { allowEmptyCatch: false }],
    },
  },
  { files: ['**/*.{js,cjs}'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
  { files: ['app/**/*.{ts,tsx}'], ...reactHooks.configs.flat.recommended },
  ...ROOMS.map(arrows),
  ...FEATURES.map((name) =>
    closedTo(
      `features/${name}`,
      FEATURES.filter((other) => other !== name),
    ),
  ),
  {
    files: ['server/**/*.ts'],
    ignores: ['server/sql/**', 'server/testing/**', '**/*.test.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "CallExpression[callee.property.name='query']",
          message: 'SQL stands in server/sql/ alone.',
        },
      ],
    },
  },
  ...BELOW_FEATURES.map((name) => closedTo(name, FEATURES)),
);
