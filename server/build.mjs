// Bundles the server and its workers; packages stay outside.
import { build } from 'esbuild';
import { rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

process.chdir(fileURLToPath(new URL('.', import.meta.url)));
rmSync('dist', { recursive: true, force: true });
const workers = [
  'tileWorker',
  'tracerWorker',
  'importWorker',
  'watchWorker',
  'developWorker',
  'filmWorker',
  'fileWorker',
  'footageWorker',
  'documentWorker',
  'planWorker',
];
await build({
  entryPoints: { main: 'src/main.ts', ...Object.fromEntries(workers.map((name) => [name, `src/workers/${name}.ts`])) },
  outdir: 'dist',
  bundle: true,
  splitting: true,
  format: 'esm',
  platform: 'node',
  target: 'node20',
  sourcemap: true,
  // Workspace sources are bundled, packages of the registry are not.
  plugins: [
    {
      name: 'packages-outside',
      setup(builder) {
        builder.onResolve({ filter: /^[^./]/ }, ({ path }) =>
          path.startsWith('@zippy/') ? null : { path, external: true },
        );
      },
    },
  ],
  logLevel: 'error',
});
