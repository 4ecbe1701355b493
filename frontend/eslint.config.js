import js from '@eslint/js';
import importX from 'eslint-plugin-import-x';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

const capabilities = [
  'company',
  'people',
  'customers',
  'catalogue',
  'stock',
  'intake',
  'orders',
  'planning',
  'field',
  'messages',
  'roads',
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
  ...capabilities.map((own) => ({
    // From another feature only its index may be used.
    files: [`src/features/${own}/**/*.{ts,tsx}`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { group: ['@/app/*'] },
            ...capabilities
              .filter((other) => other !== own)
              .map((other) => ({ group: [`@/features/${other}/*`], message: `Use @/features/${other}.` })),
          ],
        },
      ],
    },
  })),
);
