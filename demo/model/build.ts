// Makes demo/made/ferrow-r2.step and its second revision. Other formats are written by `npm run formats -w demo`.
import { mkdirSync, writeFileSync } from 'node:fs';
import { startCad } from './cad';

const made = new URL('../made/', import.meta.url);
mkdirSync(made, { recursive: true });
await startCad();
const { radio, secondRadio } = await import('./radio');
const { writeStep } = await import('./step');
for (const [name, piece] of [
  ['ferrow-r2.step', radio()],
  ['ferrow-r2-second.step', secondRadio()],
] as const) {
  const bytes = writeStep(piece);
  // The day on which it was written would make each run another file.
  const text = new TextDecoder()
    .decode(bytes)
    .replace(/'\d{4}-\d\d-\d\dT[^']*'/, "'2026-01-01T00:00:00'")
    .replace(/CALENDAR_DATE\([^)]*\)/g, 'CALENDAR_DATE(2026,1,1)')
    .replace(/LOCAL_TIME\(\d+,\d+,/g, 'LOCAL_TIME(0,0,');
  writeFileSync(new URL(name, made), text);
  console.log(`${name}: ${(bytes.length / 1e6).toFixed(1)} MB`);
}
