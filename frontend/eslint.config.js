import js from '@eslint/js';
import importX from 'eslint-plugin-import-x';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

// In the order in which they stand on each other, the lowest first: as the apps behind them do, but for people, who
// come first here, for every page asks who is signed in, and prices and stock, which a customer's page shows.
const capabilities = [
  'people',
  'company',
  'accounts',
  'roads',
  'pricing',
  'stock',
  'customers',
  'reports',
  'daylogs',
  'catalogue',
  'set_up',
  'orders',
  'open_work',
  'scheduling',
  'appointments',
  'intake',
  'messages',
  'board',
  'supply',
  'quotes',
  'field',
  'attention',
];

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'src/api/generated'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { 'import-x': importX, 'react-hooks': reactHooks },
    settings: {
      'import-x/extensions': ['.ts', '.tsx'],
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts', '.tsx'] },
      'import-x/resolver': {
        node: { extensions: ['.ts', '.tsx', '.js'] },
      },
    },
    rules: {
      ...reactHooks.configs.recommended.rules,
      'import-x/no-cycle': 'error',
      'max-lines': ['error', { max: 500, skipBlankLines: true, skipComments: true }],
      'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }],
      'no-restricted-globals': ['error', { name: 'fetch', message: 'Use api/client.' }],
    },
  },
  {
    // The server's clock is the only one: see shared/clock.ts.
    files: ['src/features/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'Take the time from shared/clock.' },
      ],
    },
  },
  {
    // Rules of the house: shared, design and api know no feature.
    files: ['src/{shared,design,api}/**/*.{ts,tsx}'],
    rules: {
      'no-restricted-imports': ['error', { patterns: [{ group: ['@/features/*', '@/app/*'] }] }],
    },
  },
  ...capabilities.map((own, rank) => ({
    // Of what stands below, the index; of what stands above, nothing.
    files: [`src/features/${own}/**/*.{ts,tsx}`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: ['@/app/*'] },
            ...capabilities
              .filter((other) => other !== own)
              .map((other) =>
                capabilities.indexOf(other) < rank
                  ? { group: [`@/features/${other}/*`], message: `Use @/features/${other}.` }
                  : {
                      group: [`@/features/${other}`, `@/features/${other}/*`],
                      message: `${other} stands on ${own}, not the other way round.`,
                    },
              ),
          ],
        },
      ],
    },
  })),
);
