import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { addDemoProject } from './demoProject';
import { createApp } from './http/app';
import { openServices, type Services } from './services';
import { readPort, sayStartFailure } from './startFailure';
import { isDiskFull } from './storage/reserve';

const setting = (name: string, fallback: string): string => process.env[name] || fallback;
const root = fileURLToPath(new URL('../..', import.meta.url));
const folder = resolve(setting('ZIPPY_DATA', `${root}/.data`));
const host = setting('ZIPPY_HOST', '127.0.0.1');
const made = `${root}/demo/made`;

/** Ends with a sentence instead of a stack. */
function giveUp(error: unknown, port: number): never {
  console.error(sayStartFailure(error, { folder, host, port }));
  process.exit(1);
}

let port = 0;
let services: Services;
try {
  port = readPort(setting('ZIPPY_PORT', '4870'));
  const out = process.env['ZIPPY_OUT'];
  services = await openServices(folder, made, out ? resolve(out) : null);
  if (process.env['ZIPPY_DEMO'] === '1' && existsSync(`${made}/project.json`))
    await addDemoProject(services, made, folder).catch((error: unknown) => {
      if (!isDiskFull(error)) throw error;
      console.error('The disk is full, so the demo project was not added.');
    });
} catch (error) {
  giveUp(error, port);
}
const server = createApp(services, `${root}/web/dist`, [host]).listen(port, host, (error) => {
  if (error) giveUp(error, port);
  const address = server.address();
  console.log(`Zippy Reel is at http://${host}:${typeof address === 'object' && address ? address.port : port}/`);
});

for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    server.close();
    void services.close().finally(() => process.exit(0));
    server.closeAllConnections();
  });
}
