import { defineConfig } from 'vitest/config';
import { plainKernel } from './kernel/plain/plugin';

export default defineConfig({
  plugins: [plainKernel()],
  oxc: { decorator: { legacy: true } },
  test: {
    include: ['core/**/*.spec.ts', 'kernel/**/*.spec.ts', 'server/**/*.spec.ts', 'demo/**/*.spec.ts'],
    exclude: ['**/node_modules/**', '**/dist/**'],
    testTimeout: 60_000,
    maxWorkers: 2,
  },
});
