import { defineConfig } from 'vitest/config';

export default defineConfig({
  oxc: { decorator: { legacy: true } },
  test: {
    include: ['core/**/*.spec.ts', 'kernel/**/*.spec.ts', 'server/**/*.spec.ts', 'demo/**/*.spec.ts'],
    exclude: ['**/node_modules/**', '**/dist/**'],
    testTimeout: 60_000,
    maxWorkers: 2,
  },
});
