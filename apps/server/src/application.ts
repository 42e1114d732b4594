// Puts the application together and starts it; the same for the real server and for tests.

import 'reflect-metadata';
import type { INestApplication } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import { DocumentBuilder, SwaggerModule } from '@nestjs/swagger';
import helmet from 'helmet';
import { ownPagesOnly } from './access/doors.ts';
import { AppModule, type AppOptions } from './app.module.ts';
import { MOST_BYTES } from './file-content/uploaded-file.ts';
import { BackupRun } from './backup/backup-run.service.ts';
import { CrossReferences } from './catalogue/cross-references.service.ts';
import { Meanings } from './catalogue/meanings.service.ts';
import { StartingPoints } from './catalogue/starting-points.service.ts';
import { ModelImport } from './catalogue/model-import.ts';
import { Scans } from './find-units/scans.service.ts';
import { Integrity } from './integrity/integrity.service.ts';
import { JobEvents } from './jobs/job-events.service.ts';
import { JobRuns } from './jobs/job-runs.service.ts';
import { PlainValues } from './problems/plain-values.ts';
import { ProblemFilter } from './problems/problem.filter.ts';
import { validation } from './problems/validation.ts';
import { AxisRun } from './axes/axis-run.service.ts';
import { PlantSettings } from './register/plant-settings.service.ts';
import { WriteRun } from './writing/write-run.service.ts';

export interface StartOptions extends AppOptions {
  /** Folder with one folder per shipped model. */
  readonly modelsFolder: string;
  readonly quiet?: boolean;
  /** Addresses of proxies in front (`10.0.4.2`, `loopback`): what they say of scheme, host and sender is believed. */
  readonly trustedProxy?: string;
}

/**
 * How long an unused connection stays open. Whoever keeps connections for reuse, a proxy in front above all, gives them up
 * sooner than that; the five seconds of Node would close one under a request that is just on its way.
 */
const IDLE_MS = 75_000;

/** Migrates, takes in the catalogue, begins to serve jobs; listening is left to the caller. */
export async function createApplication(options: StartOptions): Promise<INestApplication> {
  const app = await NestFactory.create<NestExpressApplication>(AppModule.with(options), {
    logger: options.quiet ? ['error'] : ['error', 'warn'],
    abortOnError: false,
    ...(options.https ? { httpsOptions: { cert: options.https.cert, key: options.https.key } } : {}),
  });
  if (options.trustedProxy) app.set('trust proxy', options.trustedProxy);
  app.setGlobalPrefix('api');
  // Plain http inside the plant is common: the browser must not be told to upgrade what cannot be upgraded.
  app.use(helmet({ contentSecurityPolicy: { directives: { upgradeInsecureRequests: null } }, hsts: false }));
  app.use(ownPagesOnly);
  // A model with all its parameters, a read-off of a large drive or a long wiring is larger than what a form holds.
  app.useBodyParser('json', { limit: MOST_BYTES });
  app.useGlobalPipes(new PlainValues(), validation());
  app.useGlobalFilters(new ProblemFilter());
  app.enableShutdownHooks();
  const server = app.getHttpServer();
  server.keepAliveTimeout = IDLE_MS;
  server.headersTimeout = IDLE_MS + 5000;
  describeApi(app);
  await app.init();
  app.get(Meanings).load(options.modelsFolder);
  app.get(CrossReferences).load(options.modelsFolder);
  app.get(StartingPoints).load(options.modelsFolder);
  await app.get(ModelImport).takeCatalogue(options.modelsFolder);
  await app.get(PlantSettings).watch();
  await app.get(JobEvents).start(options.databaseUrl);
  await app.get(JobRuns).start(options.databaseUrl);
  await app.get(BackupRun).serve();
  await app.get(WriteRun).serve();
  await app.get(AxisRun).serve();
  app.get(Scans).serve();
  app.get(Integrity).watch();
  return app;
}

function describeApi(app: INestApplication): void {
  const about = new DocumentBuilder()
    .setTitle('Drive Keep')
    .setDescription('Everything that the screens do. Errors are problem documents (RFC 9457).')
    .setVersion('1')
    .addCookieAuth('drive_keep_session')
    .build();
  SwaggerModule.setup('api/openapi', app, () => SwaggerModule.createDocument(app, about), {
    jsonDocumentUrl: 'api/openapi.json',
    swaggerUiEnabled: false,
  });
}
