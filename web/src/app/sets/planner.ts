import type { EveningPlan, Known } from '@hurrel/core';
import { type Remote, wrap } from 'comlink';
import { Cancelled } from '../workers/ask';
import { startWorker } from '../workers/start';
import type { EveningRequest, EveningWorker } from './messages';

interface Wish {
  request: EveningRequest;
  done: (plan: EveningPlan) => void;
  failed: (error: Error) => void;
}

/**
 * Plans an evening in a worker that stays, so that a change of the set is planned with the ways that were worked out before.
 * While one is planned only the newest waits; those that it overtakes are cancelled.
 */
export class Planner {
  private worker: Worker | null = null;
  private of: Remote<EveningWorker> | null = null;
  private sent: Known | null = null;
  private waiting: Wish | null = null;
  private busy: Wish | null = null;

  constructor(private readonly start: () => Worker = () => startWorker('evening')) {}

  /** Rejects with `Cancelled` when a newer set has overtaken this one, or the planner was closed. */
  plan(request: EveningRequest): Promise<EveningPlan> {
    this.waiting?.failed(new Cancelled());
    return new Promise((done, failed) => {
      this.waiting = { request, done, failed };
      if (!this.busy) void this.next();
    });
  }

  close(): void {
    this.waiting?.failed(new Cancelled());
    this.busy?.failed(new Cancelled());
    this.waiting = this.busy = null;
    this.end();
  }

  private async next(): Promise<void> {
    const wish = this.waiting;
    this.waiting = null;
    this.busy = wish;
    if (!wish) return;
    const { evening, ...all } = wish.request;
    const of = this.open();
    const { sent } = this;
    const same = sent !== null && KNOWN.every((key) => sent[key] === all[key]);
    const known = same ? undefined : all;
    this.sent = all;
    try {
      const plan = await of.plan(evening, known);
      if (this.waiting) wish.failed(new Cancelled());
      else wish.done(plan);
    } catch (error) {
      // What the worker knows is not certain now.
      this.sent = null;
      wish.failed(error as Error);
    }
    if (this.busy === wish) void this.next();
  }

  private open(): Remote<EveningWorker> {
    if (this.of) return this.of;
    this.worker = this.start();
    this.worker.addEventListener('error', (event) => {
      const { busy } = this;
      this.end();
      busy?.failed(new Error(event.message || 'The worker could not be loaded.'));
      if (this.busy === busy) void this.next();
    });
    this.of = wrap<EveningWorker>(this.worker);
    return this.of;
  }

  private end(): void {
    this.worker?.terminate();
    this.worker = this.of = this.sent = null;
  }
}

const KNOWN = ['library', 'before', 'times', 'units'] as const;
