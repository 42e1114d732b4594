// A real PostgreSQL for tests: TEST_DATABASE_URL names a server (the test command starts one); every suite gets a
// database of its own on it, so that suites do not see each other.

import { randomBytes } from 'node:crypto';
import pg from 'pg';

export interface PrivateDatabase {
  readonly url: string;
  drop(): Promise<void>;
}

/** Empty, or a copy of `template`. */
export async function privateDatabase(template = 'template1'): Promise<PrivateDatabase> {
  const name = `test_${randomBytes(6).toString('hex')}`;
  await execute(`create database ${name} template ${template}`);
  return { url: urlOf(name), drop: () => execute(`drop database ${name} with (force)`) };
}

/**
 * The name of a database that `fill` has made, once for all suites of a test run, whichever process comes first. Nothing
 * where the suites do not belong to one run: a database of an older run would hold what older code has made.
 */
export async function templateOf(
  what: string,
  fill: (url: string) => Promise<void>,
): Promise<string | undefined> {
  const run = process.env['TEST_RUN'];
  if (run === undefined) return undefined;
  const name = `${what}_${run}`;
  const client = new pg.Client({ connectionString: serverUrl() });
  await client.connect();
  try {
    await client.query('select pg_advisory_lock(hashtext($1))', [name]);
    const { rows } = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (rows.length > 0) return name;
    const old = `select datname from pg_database where datname like '${what}\\_%'`;
    const { rows: left } = await client.query<{ datname: string }>(old);
    for (const { datname } of left) await client.query(`drop database if exists ${datname} with (force)`);
    await client.query(`create database ${name}_making`);
    await fill(urlOf(`${name}_making`));
    await client.query(`alter database ${name}_making rename to ${name}`);
    return name;
  } finally {
    await client.end();
  }
}

function serverUrl(): string {
  const server = process.env['TEST_DATABASE_URL'];
  if (!server) throw new Error('TEST_DATABASE_URL is not set: run these tests with `npm test`');
  return server;
}

function urlOf(name: string): string {
  const url = new URL(serverUrl());
  url.pathname = `/${name}`;
  return url.href;
}

async function execute(statement: string): Promise<void> {
  const client = new pg.Client({ connectionString: serverUrl() });
  await client.connect();
  await client.query(statement);
  await client.end();
}
