import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['packages/*/src/**/*.test.ts', 'apps/*/src/**/*.test.ts', 'scripts/**/*.test.ts'],
    testTimeout: 60_000,
    hookTimeout: 120_000,
    passWithNoTests: false,
  },
});
