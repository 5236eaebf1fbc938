// Makes demo/made/ferrow-r2.step. Other formats are written by `npm run formats -w demo`.
import { mkdirSync, writeFileSync } from 'node:fs';
import { startCad } from './cad';

const made = new URL('../made/', import.meta.url);
mkdirSync(made, { recursive: true });
await startCad();
const { radio } = await import('./radio');
const { writeStep } = await import('./step');
const bytes = writeStep(radio());
writeFileSync(
  new URL('ferrow-r2.step', made),
  Buffer.from(new TextDecoder().decode(bytes).replace(/'\d{4}-\d\d-\d\dT[^']*'/, "'2026-01-01T00:00:00'")),
);
console.log(`ferrow-r2.step: ${(bytes.length / 1e6).toFixed(1)} MB`);
