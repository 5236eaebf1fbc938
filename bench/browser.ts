import { chromium, type Browser } from '@playwright/test';

/**
 * Chromium for measuring. Without a graphics card it would read every picture of a canvas back on the page's thread, which no user's
 * browser does: a card is emulated in a process of its own instead.
 * @param besides further switches
 */
export const openBrowser = (besides: string[] = []): Promise<Browser> =>
  chromium.launch({
    executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--ignore-gpu-blocklist',
      '--use-gl=angle',
      '--use-angle=swiftshader',
      '--enable-unsafe-swiftshader',
      '--enable-gpu-rasterization',
      ...besides,
    ],
  });
