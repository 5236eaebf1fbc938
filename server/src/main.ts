import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { addDemoProject } from './demoProject';
import { createApp } from './http/app';
import { openServices } from './services';

const setting = (name: string, fallback: string): string => process.env[name] || fallback;
const root = fileURLToPath(new URL('../..', import.meta.url));
const folder = resolve(setting('ZIPPY_DATA', `${root}/.data`));
const host = setting('ZIPPY_HOST', '127.0.0.1');
const port = Number(setting('ZIPPY_PORT', '4870'));

const made = `${root}/demo/made`;
const services = await openServices(folder, made);
if (process.env['ZIPPY_DEMO'] === '1' && existsSync(`${made}/project.json`))
  await addDemoProject(services, made, folder);
const server = createApp(services, `${root}/web/dist`).listen(port, host, (error) => {
  if (error) {
    const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
    console.error(taken ? `Port ${port} is in use. Set ZIPPY_PORT to another one.` : error.message);
    process.exit(1);
  }
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
