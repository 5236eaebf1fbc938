import type { Browser, Page } from '@playwright/test';
import { figure } from './figure';

interface TraceEvent {
  name: string;
  ph: string;
  pid: number;
  tid: number;
  /** Microseconds: when it began, how long it took, and how much of that the thread had a processor. */
  ts: number;
  dur?: number;
  tdur?: number;
  args?: { name?: string };
}

/** Milliseconds after tracing began within which the tasks are those of beginning it. */
const BEGINNING = 300;

/**
 * Prints the longest task of the page's main thread while `work` runs: by the clock, and by the time for which its thread had a
 * processor. The emulated graphics card takes both processors for seconds where the scene is large, and the page waits meanwhile.
 */
export async function longestTask(
  name: string,
  browser: Browser,
  page: Page,
  work: () => Promise<void>,
): Promise<void> {
  await page.waitForTimeout(1500);
  await browser.startTracing(page, { categories: ['toplevel'] });
  await page.waitForTimeout(2 * BEGINNING);
  await work();
  await page.waitForTimeout(500);
  const { traceEvents } = JSON.parse((await browser.stopTracing()).toString()) as { traceEvents: TraceEvent[] };
  const threads = new Map<string, TraceEvent[]>();
  for (const event of traceEvents) {
    if (event.ph !== 'X' || !event.name.endsWith('RunTask')) continue;
    const key = `${event.pid}/${event.tid}`;
    const tasks = threads.get(key) ?? [];
    tasks.push(event);
    threads.set(key, tasks);
  }
  // Pages that are kept ready beside this one have a main thread, too, with hardly any work.
  const [main] = traceEvents
    .filter(({ name: kind, args }) => kind === 'thread_name' && args?.name === 'CrRendererMain')
    .map(({ pid, tid }) => threads.get(`${pid}/${tid}`) ?? [])
    .sort((a, b) => total(b) - total(a));
  if (!main?.length) throw new Error('The trace holds no task of the page.');
  const begin = main[0]!.ts + BEGINNING * 1000;
  const tasks = main.filter(({ ts }) => ts > begin);
  figure(name, Math.max(0, ...tasks.map(({ dur = 0 }) => dur)) / 1000, { most: 50 });
  figure(`${name}Own`, Math.max(0, ...tasks.map(({ tdur = 0 }) => tdur)) / 1000, { most: 50 });
}

const total = (tasks: readonly TraceEvent[]): number => tasks.reduce((sum, { tdur = 0 }) => sum + tdur, 0);
