import type { Request, Response } from 'express';
import type { ServerEvent } from '@zippy/core/wire';

/** Sends events to every open window (Server-Sent Events, HTML Living Standard). */
export class Events {
  private readonly open = new Set<Response>();

  connect = (request: Request, response: Response): void => {
    response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', Connection: 'keep-alive' });
    response.flushHeaders();
    response.write('retry: 1500\n\n');
    const beat = setInterval(() => response.write(': still here\n\n'), 10_000);
    this.open.add(response);
    request.on('close', () => {
      clearInterval(beat);
      this.open.delete(response);
    });
  };

  send(event: ServerEvent): void {
    for (const response of this.open) response.write(`data: ${JSON.stringify(event)}\n\n`);
  }

  close(): void {
    for (const response of this.open) response.end();
  }
}
