// The whole thing for tests: a private database, the simulated plant of the demo, the server on a free port, and
// people who are signed in.

import { meaningOf } from '@drive-keep/core/values';
import { join } from 'node:path';
import type { INestApplication } from '@nestjs/common';
import { loadModels, Plant, type SimUnit, type Spare } from '@drive-keep/plant-sim';
import type { JobView, Role, StartedJob, WritePlanView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { findMeaning } from '@drive-keep/core/dictionary';
import { FORM_HEADER } from '../access/doors.ts';
import type { AppOptions } from '../app.module.ts';
import { createApplication } from '../application.ts';
import { bridgeBeside, describePlant } from '../demo/describe-plant.ts';
import { DEMO_ACCOUNTS, DemoPlant } from '../demo/demo-plant.service.ts';
import { demoPositions } from '../demo/demo-positions.ts';
import { privateDatabase, templateOf, type PrivateDatabase } from './private-postgres.ts';

export const MODELS_FOLDER = join(import.meta.dirname, '../../../../packages/catalogue/models');

export interface Answer<T> {
  readonly status: number;
  readonly type: string;
  readonly body: T;
}

/** A signed-in person and what they can ask for. */
export class Caller {
  constructor(
    private readonly base: string,
    readonly cookie: string,
  ) {}

  async ask<T = Record<string, unknown>>(method: string, path: string, body?: unknown): Promise<Answer<T>> {
    const form = body instanceof FormData;
    const headers = {
      cookie: this.cookie,
      ...(form ? { [FORM_HEADER]: '1' } : {}),
      ...(body === undefined || form ? {} : { 'content-type': 'application/json' }),
    };
    const init = {
      method,
      headers,
      ...(body === undefined ? {} : { body: form ? body : JSON.stringify(body) }),
    };
    const response = await fetch(`${this.base}/api/${path}`, init);
    const text = await response.text();
    const type = response.headers.get('content-type') ?? '';
    return { status: response.status, type, body: (/json/.test(type) ? JSON.parse(text) : text) as T };
  }

  /** The answer as it came, for files. */
  raw = (path: string, more: RequestInit = {}): Promise<Response> =>
    fetch(`${this.base}/api/${path}`, { ...more, headers: { cookie: this.cookie } });

  get = <T>(path: string): Promise<Answer<T>> => this.ask<T>('GET', path);
  post = <T>(path: string, body: unknown = {}): Promise<Answer<T>> => this.ask<T>('POST', path, body);
}

/** Two years of a plant take seconds to make: it is made once, and every suite gets a copy. */
async function makePlant(databaseUrl: string): Promise<void> {
  const app = await createApplication({ databaseUrl, modelsFolder: MODELS_FOLDER, quiet: true });
  await app.get(DemoPlant).ensure({});
  await app.close();
}

export class RunningPlant {
  private constructor(
    readonly app: INestApplication,
    readonly plant: Plant,
    readonly dictionary: Dictionary,
    readonly base: string,
    readonly database: PrivateDatabase,
    readonly ports: Readonly<Record<string, number>>,
    private readonly models: ReadonlyMap<string, Dictionary>,
  ) {}

  /** `webFolder`: the built interface, for those who look at it. */
  static async start(options: Pick<AppOptions, 'webFolder'> = {}): Promise<RunningPlant> {
    const database = await privateDatabase(await templateOf('made_plant', makePlant));
    const dictionaries = loadModels(MODELS_FOLDER);
    const dictionary = dictionaries.get('halvern-hn64@1');
    if (!dictionary) throw new Error('no halvern-hn64@1');
    const plant = new Plant(describePlant(dictionaries, bridgeBeside(MODELS_FOLDER)), { dictionaries });
    const ports = Object.fromEntries(await plant.listen());
    const app = await createApplication({
      databaseUrl: database.url,
      modelsFolder: MODELS_FOLDER,
      quiet: true,
      ...options,
    });
    await app.get(DemoPlant).ensure(ports);
    await app.listen(0, '127.0.0.1');
    return new RunningPlant(app, plant, dictionary, await app.getUrl(), database, ports, dictionaries);
  }

  async stop(): Promise<void> {
    await this.app.close();
    this.requireNothingStarted();
    await this.plant.close();
    await this.database.drop();
  }

  /** The product starts nothing: whatever a suite has done, no unit of the plant has been told to run. */
  private requireNothingStarted(): void {
    const told = [...this.plant.units.values()].filter(({ written, description }) => {
      const command = this.models.get(description.dictionary)?.line?.command;
      return command && [command.register, command.speed?.register].some((each) => written.has(each ?? -1));
    });
    if (told.length > 0)
      throw new Error(
        `a run command was written to ${told.map(({ description }) => description.tag).join(', ')}`,
      );
  }

  async signIn(role: Role): Promise<Caller> {
    const account = DEMO_ACCOUNTS.find((each) => each.role === role);
    const response = await fetch(`${this.base}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: account?.signInName, password: account?.password }),
    });
    return new Caller(this.base, (response.headers.get('set-cookie') ?? '').split(';')[0] ?? '');
  }

  /** The simulated unit at a position, by its tag. */
  unit(tag: string): SimUnit {
    const told = demoPositions().find((each) => each.tag === tag);
    const unit = this.plant.units.get(told?.answers ?? 0);
    if (!unit) throw new Error(`no unit at ${tag}`);
    return unit;
  }

  /** Another drive at the same place of the line, as it comes out of its box. */
  replaceUnit(tag: string, spare: Omit<Spare, 'rating'> & Partial<Pick<Spare, 'rating'>>): SimUnit {
    const { description, serial } = this.unit(tag);
    return this.plant.swap(serial, { rating: description.rating, ...spare });
  }

  code(meaning: string): string {
    const code = findMeaning(this.dictionary, meaningOf(meaning))?.code;
    if (!code) throw new Error(meaning);
    return code;
  }

  /** Starts a backup and waits for its end. */
  async backUp(caller: Caller, ...positions: string[]): Promise<JobView> {
    const { body } = await caller.post<StartedJob>('backups', { positions, reason: 'Test' });
    return this.jobEnd(caller, body.job.id);
  }

  async jobEnd(caller: Caller, id: string): Promise<JobView> {
    return until(async () => {
      const { body } = await caller.get<JobView>(`jobs/${id}`);
      return ['done', 'stopped', 'interrupted'].includes(body.state) ? body : undefined;
    });
  }

  async planEnd(caller: Caller, id: string): Promise<WritePlanView> {
    return until(async () => {
      const { body } = await caller.get<WritePlanView>(`write-plans/${id}`);
      return ['planned', 'released', 'writing'].includes(body.state) ? undefined : body;
    });
  }
}

/** Asks again and again until there is an answer, for half a minute at the most. */
export async function until<T>(ask: () => Promise<T | undefined> | T | undefined): Promise<T> {
  for (const end = Date.now() + 30_000; Date.now() < end;) {
    const answer = await ask();
    if (answer !== undefined) return answer;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('waited for half a minute');
}
