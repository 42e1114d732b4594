// DATABASE_URL=… node dist/integrity/check-kept.js: hashes everything that was kept again and prints what it finds. Ends
// with 1 where something is damaged.

import 'reflect-metadata';
import { Module } from '@nestjs/common';
import { NestFactory } from '@nestjs/core';
import { databaseOf } from '../app.module.ts';
import { Integrity } from './integrity.service.ts';
import { IntegrityModule } from './integrity.module.ts';

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL must be set');

@Module({ imports: [databaseOf(url), IntegrityModule] })
class CheckKept {}

const app = await NestFactory.createApplicationContext(CheckKept, { logger: ['error'] });
try {
  const { checked, rows, damaged, findings } = await app.get(Integrity).check('Check command');
  const bad = damaged.length + findings.length;
  process.stdout.write(`${checked} kept contents and ${rows} rows of evidence checked, ${bad} damaged.\n`);
  for (const { hash, dictionary, usedBy, restoreFrom } of damaged) {
    process.stdout.write(`\n${hash} (${dictionary})\n`);
    for (const use of usedBy) process.stdout.write(`  used by ${use}\n`);
    process.stdout.write(`  ${restoreFrom}\n`);
  }
  for (const { what, text } of findings) process.stdout.write(`\n${what}: ${text}\n`);
  process.exitCode = bad === 0 ? 0 : 1;
} finally {
  await app.close();
}
