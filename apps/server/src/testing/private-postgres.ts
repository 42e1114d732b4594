// A real PostgreSQL for tests: TEST_DATABASE_URL names a server (the test command starts one); every suite gets a
// database of its own on it, so that suites do not see each other.

import { randomBytes } from 'node:crypto';
import pg from 'pg';

export interface PrivateDatabase {
  readonly url: string;
  drop(): Promise<void>;
}

export async function privateDatabase(): Promise<PrivateDatabase> {
  const server = process.env['TEST_DATABASE_URL'];
  if (!server) throw new Error('TEST_DATABASE_URL is not set: run these tests with `npm test`');
  const name = `test_${randomBytes(6).toString('hex')}`;
  await execute(server, `create database ${name}`);
  const url = new URL(server);
  url.pathname = `/${name}`;
  return { url: url.href, drop: () => execute(server, `drop database ${name} with (force)`) };
}

async function execute(server: string, statement: string): Promise<void> {
  const client = new pg.Client({ connectionString: server });
  await client.connect();
  await client.query(statement);
  await client.end();
}
