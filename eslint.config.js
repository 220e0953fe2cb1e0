import tseslint from 'typescript-eslint';

const pure = {
  'no-restricted-globals': [
    'error',
    'window',
    'document',
    'process',
    'console',
    'performance',
    'Date',
    'fetch',
    'setTimeout',
    'self',
  ],
  'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'Pass an Rng.' }],
};

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '.half-loop/**', '**/test-results/**', '**/public/**'] },
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    linterOptions: { reportUnusedDisableDirectives: 'off' },
    rules: {
      'max-lines': ['error', { max: 330, skipComments: false }],
      'max-lines-per-function': ['error', { max: 90 }],
      '@typescript-eslint/consistent-type-imports': ['error', { disallowTypeAnnotations: false }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-console': 'error',
      'no-restricted-syntax': [
        'error',
        { selector: 'ExportAllDeclaration[source.value=/^[^.]/]', message: 'Re-export own files only.' },
      ],
    },
  },
  {
    files: ['packages/core/src/**/*.ts', 'packages/contract/src/**/*.ts', 'packages/studies/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: pure,
  },
  {
    files: ['**/*.test.ts', '**/*.spec.ts'],
    rules: { 'max-lines-per-function': 'off', 'max-lines': ['error', { max: 400 }] },
  },
  { files: ['apps/server/src/main.ts', 'bench/**', 'torture/**'], rules: { 'no-console': 'off' } },
  { files: ['**/*.mjs', '**/*.cjs'], rules: { '@typescript-eslint/no-require-imports': 'off' } },
);
