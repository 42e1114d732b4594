// The server process. The launcher gives DATABASE_URL, MODELS, WEB, HOST, PORT, and DEMO_LINES (ports of the simulated
// plant by line) where there is a demo plant; HTTPS_CERT and HTTPS_KEY or HTTPS_FOLDER and HTTPS_NAMES for https;
// TRUSTED_PROXY where there is one in front. Prints one line of JSON when it listens.

import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Logger } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { Access } from './access/access.service.ts';
import { Dictionaries } from './catalogue/dictionaries.service.ts';
import { makeFirstAccount } from './access/first-account.ts';
import {
  CertificateError,
  fingerprintOf,
  givenCertificate,
  localCertificate,
  type Https,
} from './reaching/certificate.ts';
import { CheckClock } from './checks/check-clock.service.ts';
import { RoundClock } from './rounds/round-clock.service.ts';
import { createApplication } from './application.ts';
import { DEMO_ACCOUNTS, DemoPlant } from './demo/demo-plant.service.ts';

// A promise that nobody waited for is a fault of ours; it does not take the server away from everybody else.
process.on('unhandledRejection', (error) => {
  new Logger('Server').error(error instanceof Error ? (error.stack ?? error.message) : String(error));
});

const {
  DATABASE_URL,
  MODELS,
  WEB,
  PORT = '8420',
  HOST = '127.0.0.1',
  DEMO_LINES,
  TRUSTED_PROXY,
} = process.env;
const { HTTPS_CERT, HTTPS_KEY, HTTPS_FOLDER, HTTPS_NAMES = '' } = process.env;
if (!DATABASE_URL || !MODELS) throw new Error('DATABASE_URL and MODELS must be set');

/** Nothing for plain http. What is wrong with a certificate is one sentence and the end. */
async function httpsWanted(): Promise<Https | undefined> {
  try {
    if (HTTPS_CERT && HTTPS_KEY) return givenCertificate(HTTPS_CERT, HTTPS_KEY);
    return HTTPS_FOLDER ? await localCertificate(HTTPS_FOLDER, HTTPS_NAMES.split(',')) : undefined;
  } catch (error) {
    if (!(error instanceof CertificateError)) throw error;
    process.stderr.write(`${error.message}\n`);
    process.exit(1);
  }
}

const https = await httpsWanted();
const app = await createApplication({
  databaseUrl: DATABASE_URL,
  modelsFolder: MODELS,
  ...(WEB ? { webFolder: WEB } : {}),
  ...(https ? { https } : {}),
  ...(TRUSTED_PROXY ? { trustedProxy: TRUSTED_PROXY } : {}),
});
if (DEMO_LINES) await app.get(DemoPlant).ensure(JSON.parse(DEMO_LINES) as Record<string, number>);
const firstAccount = DEMO_LINES ? undefined : await makeFirstAccount(app.get(Access), app.get(DataSource));
// Only now: the demo's rounds have to know of their last run before anybody looks at the clock.
app.get(RoundClock).watch();
app.get(CheckClock).watch();
await app.listen(Number(PORT), HOST);
const accounts = DEMO_LINES
  ? DEMO_ACCOUNTS.map(({ signInName, password, role }) => ({ signInName, password, role }))
  : [];
void app.get(Dictionaries).readAhead();
// With port 0 the system has chosen one.
const listening = (app.getHttpServer() as Server).address() as AddressInfo;
const fingerprint = https?.authority ? fingerprintOf(https.authority) : undefined;
process.stdout.write(
  `${JSON.stringify({ listening: listening.port, firstAccount, accounts, fingerprint })}\n`,
);
