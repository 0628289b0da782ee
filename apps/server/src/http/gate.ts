import type { RequestHandler } from 'express';
import { sendProblem } from './problem';

/** Counts the requests that are running, and lets no more in while the server stops. */
export class Gate {
  private running = 0;
  private closing = false;
  private done: (() => void) | undefined;

  readonly middleware: RequestHandler = (request, response, next) => {
    if (this.closing) {
      response.setHeader('Connection', 'close');
      return sendProblem(request, response, 'stopping', 'Ulvane is being stopped: try again in a moment.');
    }
    this.running += 1;
    response.once('close', () => {
      this.running -= 1;
      if (this.running === 0) this.done?.();
    });
    next();
  };

  /** Refuses new requests, and waits for those that run, up to a limit. @returns how many were left */
  async close(limitMs: number): Promise<number> {
    this.closing = true;
    if (this.running > 0)
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, limitMs);
        this.done = () => {
          clearTimeout(timer);
          resolve();
        };
      });
    return this.running;
  }
}
