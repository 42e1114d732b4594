// The server process. The launcher gives DATABASE_URL, MODELS, WEB, HOST, PORT, and DEMO_LINES (ports of the simulated
// plant by line) where there is a demo plant. Prints one line of JSON when it listens.

import { DataSource } from 'typeorm';
import { Access } from './access/access.service.ts';
import { makeFirstAccount } from './access/first-account.ts';
import { RoundClock } from './rounds/round-clock.service.ts';
import { createApplication } from './application.ts';
import { DEMO_ACCOUNTS, DemoPlant } from './demo/demo-plant.service.ts';

const { DATABASE_URL, MODELS, WEB, PORT = '8420', HOST = '127.0.0.1', DEMO_LINES } = process.env;
if (!DATABASE_URL || !MODELS) throw new Error('DATABASE_URL and MODELS must be set');

const app = await createApplication({
  databaseUrl: DATABASE_URL,
  modelsFolder: MODELS,
  ...(WEB ? { webFolder: WEB } : {}),
});
if (DEMO_LINES) await app.get(DemoPlant).ensure(JSON.parse(DEMO_LINES) as Record<string, number>);
const firstAccount = DEMO_LINES ? undefined : await makeFirstAccount(app.get(Access), app.get(DataSource));
// Only now: the demo's rounds have to know of their last run before anybody looks at the clock.
app.get(RoundClock).watch();
await app.listen(Number(PORT), HOST);
const accounts = DEMO_LINES
  ? DEMO_ACCOUNTS.map(({ signInName, password, role }) => ({ signInName, password, role }))
  : [];
process.stdout.write(`${JSON.stringify({ listening: Number(PORT), firstAccount, accounts })}\n`);
