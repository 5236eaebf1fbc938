import type { Request, Response } from 'express';

/** What windows are told as it happens; each names what changed, and they fetch or apply it. */
export type ServerEvent =
  | { type: 'project'; project: string; revision: number; window: string }
  | { type: 'takes'; project: string }
  /** Frames of a take that now show a picture that was rendered, and how many of its frames have been named. */
  | { type: 'frame'; project: string; take: string; frames: number[]; named: number }
  | { type: 'import'; import: string; state: string; message: string }
  | { type: 'film'; project: string; film: string; state: string; encoded: number; frames: number };

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
