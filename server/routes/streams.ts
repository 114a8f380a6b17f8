import type { Response } from 'express';

/** Screens that follow something: told when the server stops, so that they ask another one, or this one again. */
export class Streams {
  private readonly open = new Set<Response>();

  add(response: Response): void {
    this.open.add(response);
    response.on('close', () => this.open.delete(response));
  }

  get size(): number {
    return this.open.size;
  }

  close(): void {
    for (const response of this.open) response.end('event: bye\ndata: {}\n\n');
  }
}
