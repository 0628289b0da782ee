import { Injectable } from '@nestjs/common';
import type { Request, RequestHandler } from 'express';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import { DataSource } from 'typeorm';
import { poolOf } from '../database/dataSource';
import { Workers } from '../threads/workers';

/** The route as the contract writes it, so that every move is not a series of its own. */
function routeOf(request: Request): string {
  const route: unknown = request.route;
  return typeof route === 'object' && route !== null && 'path' in route && typeof route.path === 'string'
    ? route.path
    : 'other';
}

/** Figures of this server, in the text format that monitoring reads. */
@Injectable()
export class Metrics {
  private readonly registry = new Registry();
  private readonly reassessment: Gauge;
  private readonly seconds: Histogram<'method' | 'route' | 'status'>;

  constructor(dataSource: DataSource, workers: Workers) {
    const registers = [this.registry];
    collectDefaultMetrics({ register: this.registry });
    this.seconds = new Histogram({
      name: 'ulvane_request_seconds',
      help: 'How long requests took, by route and status',
      labelNames: ['method', 'route', 'status'],
      buckets: [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
      registers,
    });
    new Gauge({
      name: 'ulvane_pool_connections',
      help: 'Connections to the database: in use, idle, and requests that wait for one',
      labelNames: ['state'],
      registers,
      collect() {
        const { totalCount, idleCount, waitingCount } = poolOf(dataSource);
        this.set({ state: 'used' }, totalCount - idleCount);
        this.set({ state: 'idle' }, idleCount);
        this.set({ state: 'waiting' }, waitingCount);
      },
    });
    new Gauge({
      name: 'ulvane_database_up',
      help: 'Whether the database answers',
      registers,
      collect() {
        this.set(poolOf(dataSource).pulse.state === 'up' ? 1 : 0);
      },
    });
    new Gauge({
      name: 'ulvane_tasks_waiting',
      help: 'Tasks that wait for a thread',
      registers,
      collect() {
        this.set(workers.waiting);
      },
    });
    this.reassessment = new Gauge({
      name: 'ulvane_reassessment_waiting',
      help: 'Moves that wait to be assessed against the present catalogue, rules and day',
      registers,
    });
  }

  readonly middleware: RequestHandler = (request, response, next) => {
    const end = this.seconds.startTimer();
    response.once('close', () =>
      end({ method: request.method, route: routeOf(request), status: String(response.statusCode) }),
    );
    next();
  };

  /** @param reassessmentWaiting moves that wait to be assessed anew */
  text(reassessmentWaiting: number): Promise<string> {
    this.reassessment.set(reassessmentWaiting);
    return this.registry.metrics();
  }
}
