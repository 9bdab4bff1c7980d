import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { Db } from '../database/db.js';
import { log } from '../http/log.js';
import { type Lease, LeaseLost, Leases } from './leases.service.js';

/** What a worker of a round may look at while it works. */
export interface Turn {
  lease: Lease;
  /** True when the server is asked to stop: the work ends at the next whole step. */
  stopped: () => boolean;
}

/** Work that comes again and again. Its lanes are independent: what is slow or dead in one holds up no other. */
export interface Round {
  name: string;
  everyMs: number;
  /** How long a lane is held without a sign of life. */
  leaseMs: number;
  /** The lanes that have something to do now; a round of one lane gives `['']`. */
  lanes: () => Promise<readonly string[]>;
  work: (lane: string, turn: Turn) => Promise<unknown>;
}

const TICK_MS = 1_000;

/** Runs the rounds that features register: each lane under a lease, so that of several servers one works at it. */
@Injectable()
export class Rounds implements OnApplicationShutdown {
  private readonly rounds: Round[] = [];
  private readonly last = new Map<string, number>();
  private readonly running = new Map<string, Promise<void>>();
  /** Lanes that were asked for while they were at work. */
  private readonly again = new Set<string>();
  private timer: NodeJS.Timeout | null = null;
  private stopping = false;

  private started = false;

  constructor(
    private readonly leases: Leases,
    db: Db,
  ) {
    db.onHurried(names => {
      if (this.started && !this.stopping) void this.once(...names);
    });
  }

  register(round: Round): void {
    if (this.rounds.some(r => r.name === round.name))
      throw new Error(`The round ${round.name} is there twice.`);
    this.rounds.push(round);
  }

  /** Begins to work, at once and then every second. */
  start(): void {
    this.started = true;
    const tick = async () => {
      await Promise.all(this.rounds.filter(r => this.isDue(r)).map(r => this.begin(r)));
      if (!this.stopping) this.timer = setTimeout(() => void tick(), TICK_MS);
    };
    void tick();
  }

  /** Does all rounds once, due or not, and waits for their ends; those named, or all. */
  async once(...names: string[]): Promise<void> {
    const chosen = this.rounds.filter(r => names.length === 0 || names.includes(r.name));
    await Promise.all((await Promise.all(chosen.map(r => this.begin(r)))).flat());
  }

  async onApplicationShutdown(): Promise<void> {
    this.stopping = true;
    if (this.timer) clearTimeout(this.timer);
    await Promise.all(this.running.values());
  }

  private isDue(round: Round): boolean {
    const now = performance.now();
    const last = this.last.get(round.name);
    if (last !== undefined && now - last < round.everyMs) return false;
    this.last.set(round.name, now);
    return true;
  }

  /** Starts every lane of a round that is not at work here already; gives their ends. */
  private async begin(round: Round): Promise<Promise<void>[]> {
    try {
      return (await round.lanes()).map(lane => this.lane(round, lane));
    } catch (error) {
      if (!this.stopping) log.warn({ err: error, round: round.name }, 'a round failed; it is tried again');
      return [];
    }
  }

  /** Works at a lane. Who asks while it is at work may come after its last look: it looks once more before it ends. */
  private lane(round: Round, lane: string): Promise<void> {
    const name = `${round.name} ${lane}`.trim();
    const known = this.running.get(name);
    if (known) {
      this.again.add(name);
      return known;
    }
    const end = this.toEnd(round, lane, name);
    this.running.set(name, end);
    return end;
  }

  private async toEnd(round: Round, lane: string, name: string): Promise<void> {
    do {
      this.again.delete(name);
      await this.work(round, lane, name);
    } while (this.again.has(name) && !this.stopping);
    this.running.delete(name);
  }

  private async work(round: Round, lane: string, name: string): Promise<void> {
    try {
      await this.leases.alone(name, round.leaseMs, lease =>
        round.work(lane, { lease, stopped: () => this.stopping }),
      );
    } catch (error) {
      if (error instanceof LeaseLost) log.warn({ round: name }, error.message);
      else if (!this.stopping) log.warn({ err: error, round: name }, 'a round failed; it is tried again');
    }
  }
}
