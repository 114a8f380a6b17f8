import type { RequestHandler } from 'express';
import type pg from 'pg';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';

/** Bounds of the times that answers take, s. */
const BUCKETS = [0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10];
/** Where the table's name for the address that answered is noted. */
export const ROUTE = 'route';

/** Figures of this process, as Prometheus reads them. */
export class Metrics {
  private readonly registry = new Registry();
  private readonly answers: Histogram;

  /** @param streams screens that follow a run now */
  constructor(pool: pg.Pool, streams: () => number) {
    const registers = [this.registry];
    collectDefaultMetrics({ register: this.registry });
    this.answers = new Histogram({
      name: 'pace_check_answer_seconds',
      help: 'Time until an answer of the API was whole, by address and status',
      labelNames: ['route', 'status'],
      buckets: BUCKETS,
      registers,
    });
    const gauge = (name: string, help: string, read: () => number): void =>
      void new Gauge({
        name: `pace_check_${name}`,
        help,
        registers,
        collect() {
          this.set(read());
        },
      });
    gauge('followers', 'Screens that follow a run now', streams);
    gauge('database_connections', 'Connections to the database', () => pool.totalCount);
    gauge('database_waiting', 'Requests that wait for a connection', () => pool.waitingCount);
  }

  /** Times every answer of the API; a stream is none that ends. */
  timing(): RequestHandler {
    return (_request, response, next) => {
      const begun = performance.now();
      response.on('finish', () => {
        const route = response.locals[ROUTE] as string | undefined;
        if (route === undefined || route === 'benchEvents') return;
        this.answers.observe(
          { route, status: String(response.statusCode) },
          (performance.now() - begun) / 1000,
        );
      });
      next();
    };
  }

  text(): Promise<string> {
    return this.registry.metrics();
  }

  get type(): string {
    return this.registry.contentType;
  }
}
