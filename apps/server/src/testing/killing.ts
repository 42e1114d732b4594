// One kind of work after the other is begun in a server process that is ended just before one of its effects. Another process
// takes its place; then nothing may be left without an end, and what is said of each has to be so.

import type { ChildProcess } from 'node:child_process';
import { DataSource } from 'typeorm';
import { Integrity } from '../integrity/integrity.service.ts';
import { JobRuns } from '../jobs/job-runs.service.ts';
import { WorkQueue } from '../queue/work-queue.service.ts';
import { RunningPlant, until, type Caller } from './running-plant.ts';
import { kill, listening, signInAt, spawnServer, type ServerProcess } from './server-process.ts';

/** Every work that has no end, in all the tables where work has a state. */
const WITHOUT_END = `
select 'job' as what, id, state from job where state in ('queued', 'running')
union all select 'unit of a job', job_id, state from job_item where state <> 'ended'
union all select 'plan', id, state from write_plan where state = 'writing'
union all select 'load of axes', id, state from axis_load where state = 'loading'
union all select 'run of a round', id, 'open' from round_run where done_at is null
union all select 'search of a line', id, state from scan where state = 'running'
union all select 'step', plan_id, s.state from write_step s
  join write_plan p on p.id = s.plan_id where p.state in ('done', 'refused') and s.state = 'writing'
`;

export interface Work {
  /** Gets everything ready in the process that will be killed; what it answers begins the work and waits for its end. */
  readonly ready: (doomed: Caller) => Promise<() => Promise<void>>;
  /** What must be so, whether the process was killed or not; empty where all is. */
  readonly untrue: () => Promise<readonly string[]>;
}

export class Killing {
  private constructor(
    readonly plant: RunningPlant,
    /** Looks from a process that does no work itself. */
    readonly looker: Caller,
    private doomed: ServerProcess,
    private next: ChildProcess,
  ) {}

  static async start(): Promise<Killing> {
    const plant = await RunningPlant.start();
    // Whatever is left behind is ended by the process that comes after, and by nobody else.
    await plant.app.get(WorkQueue).onApplicationShutdown();
    await plant.app.get(JobRuns).onApplicationShutdown();
    const spawned = () => spawnServer(plant.database.url, plant.ports, 'kill-point');
    const [first, second] = [spawned(), spawned()];
    const doomed = { child: first, base: await go(first) };
    return new Killing(plant, await plant.signIn('engineer'), doomed, second);
  }

  async stop(): Promise<void> {
    await Promise.all([kill(this.doomed.child), kill(this.next)]);
    await this.plant.stop();
  }

  /**
   * Begins the work and ends the process before its `point`-th effect, counted from 1; null lets it come to its end. Answers
   * with how many effects it had, where it lived, and with all that is not so afterwards.
   */
  async tryAt(
    work: Work,
    point: number | null,
  ): Promise<{ effects: number | null; wrong: readonly string[] }> {
    const { child } = this.doomed;
    const begin = await work.ready(await signInAt(this.doomed.base, 'engineer', 'glaze-and-fire'));
    child.send({ kind: 'count', dieBefore: point });
    const gone = new Promise<'gone'>((resolve) => child.once('exit', () => resolve('gone')));
    // A request that was cut off with its process fails; whether the work was begun is what is looked at afterwards.
    const ended = begin().then(
      () => 'ended' as const,
      (error: unknown) => error,
    );
    const how = await Promise.race([gone, ended]);
    if (how !== 'ended' && how !== 'gone' && (await soon(gone)) !== 'gone') throw how as Error;
    // Work whose end is told may have a last effect that is still to come.
    const effects = how === 'ended' ? await Promise.race([this.counted(), gone.then(() => null)]) : null;
    if (effects === null) await this.replace();
    const open = await this.withoutEnd();
    const { findings } = await this.plant.app.get(Integrity).check('Test');
    return {
      effects,
      wrong: [...open, ...findings.map((each) => JSON.stringify(each)), ...(await work.untrue())],
    };
  }

  private async counted(): Promise<number> {
    const { child } = this.doomed;
    const told = new Promise<number>((resolve) =>
      child.once('message', (message) => resolve((message as { effects: number }).effects)),
    );
    // A process that is going away takes no more messages; that it has gone is seen elsewhere.
    const ignored = () => undefined;
    child.send({ kind: 'counted' }, ignored);
    const effects = await told;
    child.send({ kind: 'count', dieBefore: null }, ignored);
    return effects;
  }

  private async replace(): Promise<void> {
    await kill(this.doomed.child);
    this.doomed = { child: this.next, base: await go(this.next) };
    this.next = spawnServer(this.plant.database.url, this.plant.ports, 'kill-point');
  }

  /** What has no end yet; empty as soon as all has one, and after half a minute what still has none. */
  private async withoutEnd(): Promise<readonly string[]> {
    const ask = () =>
      this.plant.app.get(DataSource).query<{ what: string; id: string; state: string }[]>(WITHOUT_END);
    return until(async () => ((await ask()).length === 0 ? [] : undefined)).catch(async () =>
      (await ask()).map(({ what, id, state }) => `${what} ${id} is ${state} for ever`),
    );
  }
}

async function go(child: ChildProcess): Promise<string> {
  const base = listening(child);
  child.send({ kind: 'go' });
  return base;
}

const soon = <T>(what: Promise<T>): Promise<T | 'late'> =>
  Promise.race([what, new Promise<'late'>((resolve) => setTimeout(() => resolve('late'), 1000))]);
