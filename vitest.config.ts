import { defineConfig } from 'vitest/config';

const unit = [
  'packages/*/src/**/*.test.ts',
  'scripts/*.test.ts',
  'apps/web/src/**/*.test.ts',
  'apps/cli/src/**/*.test.ts',
];

export default defineConfig({
  test: {
    // so long only what hangs takes: on a busy machine whole solves take four times as long as on an idle one
    testTimeout: 180_000,
    hookTimeout: 120_000,
    passWithNoTests: false,
    projects: [
      { extends: true, test: { name: 'unit', include: unit, globalSetup: './scripts/vitest-build.mjs' } },
      {
        extends: true,
        test: {
          name: 'server',
          include: ['apps/server/src/**/*.test.ts'],
          globalSetup: ['./scripts/vitest-build.mjs', './scripts/vitest-database.mjs'],
          fileParallelism: false,
        },
      },
    ],
  },
});
