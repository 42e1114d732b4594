// A client on the database of a running plant, for what no screen does.

import pg from 'pg';

export async function withClient(running, work) {
  const client = new pg.Client({ connectionString: running.database.url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}
