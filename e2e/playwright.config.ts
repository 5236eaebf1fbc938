import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  timeout: 400_000,
  expect: { timeout: 30_000 },
  workers: 1,
  reporter: [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    // Pictures are drawn by software here: a quarter of the pixels shows the same.
    deviceScaleFactor: 0.5,
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
