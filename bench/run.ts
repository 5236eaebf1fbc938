// Runs benchmarks: `npm run bench`, or `npm run bench -- rays workers` for some of them.
const all = [
  'rays',
  'motion',
  'scopes',
  'takes',
  'reel',
  'match',
  'paths',
  'maps',
  'footage',
  'revisions',
  'instances',
  'economies',
  'quality',
  'denoise',
  'workers',
  'film',
  'import',
  'meshes',
  'page',
  'assembly',
  'longTasks',
  'answer',
  'interactions',
  'sketch',
] as const;
const asked = process.argv.slice(2);
for (const name of all) {
  if (asked.length > 0 && !asked.includes(name)) continue;
  const bench = (await import(`./${name}.ts`)) as { default: () => Promise<void> };
  await bench.default();
}
process.exit(0);

export {};
