// DATABASE_URL=… node dist/integrity/check-kept.js: hashes everything that was kept again and prints what it finds. Ends
// with 1 where something is damaged.

import 'reflect-metadata';
import { DataSource } from 'typeorm';
import { Logbook } from '../logbook/logbook.service.ts';
import { dataSourceOptions } from '../storage/data-source.ts';
import { Integrity } from './integrity.service.ts';

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL must be set');
const dataSource = new DataSource(dataSourceOptions(url));
await dataSource.initialize();
try {
  const { checked, damaged } = await new Integrity(dataSource, new Logbook(dataSource)).check(
    'Check command',
  );
  process.stdout.write(`${checked} kept contents checked, ${damaged.length} damaged.\n`);
  for (const { hash, dictionary, usedBy, restoreFrom } of damaged) {
    process.stdout.write(`\n${hash} (${dictionary})\n`);
    for (const use of usedBy) process.stdout.write(`  used by ${use}\n`);
    process.stdout.write(`  ${restoreFrom}\n`);
  }
  process.exitCode = damaged.length === 0 ? 0 : 1;
} finally {
  await dataSource.destroy();
}
