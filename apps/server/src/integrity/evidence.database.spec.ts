// Every column of every table of evidence is altered, and rows of each are deleted and put in: none of it goes unnoticed.

import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';
import { EvidenceChain } from './evidence-chain.service.ts';
import { EVIDENCE } from './evidence-sources.ts';
import { Integrity } from './integrity.service.ts';

let plant: RunningPlant;
let technician: Caller;
let disk: pg.Client;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  await plant.backUp(technician, 'KL1-RD-01', 'KL1-RD-02');
  await plant.app.get(EvidenceChain).link();
  disk = new pg.Client({ connectionString: plant.database.url });
  await disk.connect();
  // As whoever has the disk: around all triggers and references.
  await disk.query('set session_replication_role = replica');
});
afterAll(async () => {
  await disk.end();
  await plant.stop();
});

const check = async () => {
  const { damaged, findings } = await plant.app.get(Integrity).check('Test');
  return [
    ...findings.map(({ kind, what, text }) => ({ kind, what, text })),
    ...damaged.map(({ hash }) => ({ kind: 'content', what: 'set_content', text: hash })),
  ];
};

/** Some other value of the same type. */
const OTHER: Readonly<Record<string, string>> = {
  text: `coalesce(%, '') || 'x'`,
  bigint: '% + 1000000',
  integer: '% + 1000000',
  smallint: '(% + 1)::smallint',
  uuid: `'00000000-0000-4000-8000-000000000000'::uuid`,
  'timestamp with time zone': `% + interval '1 second'`,
  jsonb: `'{"other": 1}'::jsonb`,
  boolean: 'not %',
  bytea: `set_byte(%, 3, (get_byte(%, 3) + 1) MOD 256)`,
  ARRAY: '% || %[1]',
};

/** Columns that take few values. */
const SPECIAL: Readonly<Record<string, string>> = {
  'proof_run.scope': `case % when 'whole' then 'changed' else 'whole' end`,
  'proof_evidence.state': `case % when 'passed' then 'failed' else 'passed' end`,
  'proof_saying.verdict': `case % when 'passed' then 'failed' else 'passed' end`,
  'proof_end.state': `case % when 'closed' then 'given-up' else 'closed' end`,
  'trace.last_piece_at': `timestamptz '2000-01-01 00:00Z'`,
  'backup.how': `case % when 'read' then 'before-write' else 'read' end`,
};

const TABLES = [...EVIDENCE.map(({ table }) => table), 'evidence_link', 'evidence_head'];

/** The chain alone, which leaves no note of its own. */
const checkChain = async () => (await plant.app.get(EvidenceChain).check()).findings;

/** One row as it is, beside the table, and the row itself taken out. */
async function takeOut(table: string, place: number): Promise<void> {
  await plant.app.get(EvidenceChain).link();
  await disk.query('drop table if exists taken');
  await disk.query(
    `create temp table taken as select * from ${table} where ctid = (select ctid from ${table} order by ctid offset ${place} limit 1)`,
  );
  await disk.query(`delete from ${table} t using taken where t.* is not distinct from taken.*`);
}

const putBack = (table: string, change = '*') =>
  disk.query(`insert into ${table} overriding system value select ${change} from taken`);

const rowsOf = async (table: string): Promise<number> =>
  Number((await disk.query<{ count: string }>(`select count(*) from ${table}`)).rows[0]?.count);

async function columnsOf(table: string): Promise<readonly { column_name: string; data_type: string }[]> {
  const { rows } = await disk.query<{ column_name: string; data_type: string }>(
    'select column_name, data_type from information_schema.columns where table_name = $1 order by ordinal_position',
    [table],
  );
  return rows;
}

describe('evidence', () => {
  it('fits together as it was kept, and tells how much of it there is', async () => {
    expect(await check()).toEqual([]);
    const { rows } = await disk.query<{ count: string }>('select count(*) from evidence_waiting');
    expect(Number(rows[0]?.count)).toBeLessThan(5);
  });

  it.each(TABLES)(
    'of %s cannot be altered in any column without being noticed',
    async (table) => {
      const columns = await columnsOf(table);
      for (const { column_name: column, data_type: type } of columns) {
        // The head is one row whose id says so.
        if (table === 'evidence_head' && column === 'id') continue;
        // A trace that has its samples cannot be said to be recorded: its table refuses that.
        if (table === 'trace' && column === 'state') continue;
        const change = (SPECIAL[`${table}.${column}`] ?? OTHER[type])
          ?.replaceAll('%', column)
          .replace('MOD', '%');
        if (change === undefined) throw new Error(`${table}.${column} is of another type: ${type}`);
        const altered = columns
          .map(({ column_name: name }) => (name === column ? `${change} as ${name}` : name))
          .join(', ');
        await takeOut(table, Math.floor((await rowsOf(table)) / 2));
        await putBack(table, altered);
        const findings = table.startsWith('evidence') ? await checkChain() : await check();
        expect([table, column, findings.length > 0]).toEqual([table, column, true]);
        await disk.query(
          `delete from ${table} t using (select ${altered} from taken) a where t.* is not distinct from a.*`,
        );
        await putBack(table);
      }
      expect(await check()).toEqual([]);
    },
    240_000,
  );

  it.each(TABLES)(
    'of %s cannot lose a row without being noticed, wherever it stood',
    async (table) => {
      const last = (await rowsOf(table)) - 1;
      const places = new Set([0, 1, Math.floor(last / 3), Math.floor(last / 2), last - 1, last]);
      for (const place of [...places].filter((each) => each >= 0 && each <= last)) {
        await takeOut(table, place);
        const findings = await checkChain();
        expect([table, place, findings.length > 0]).toEqual([table, place, true]);
        await putBack(table);
      }
      expect(await check()).toEqual([]);
    },
    240_000,
  );

  it('that was altered, taken away, put in or signed by somebody else is named by what happened', async () => {
    const told = async (...statements: string[]) => {
      for (const statement of statements) await disk.query(statement);
      return (await check()).map(({ kind, text }) => `${kind}: ${text}`);
    };
    await disk.query(`create temp table log as select * from logbook where id in (5, 6)`);
    expect(await told(`update logbook set text = 'Nothing happened.' where id = 5`)).toEqual([
      'changed: Entry 5 of the logbook was changed after it was kept.',
    ]);
    expect(await told(`delete from logbook where id in (5, 6)`)).toEqual([
      'gone: Entry 5 of the logbook was kept and is gone.',
      'gone: Entry 6 of the logbook was kept and is gone.',
    ]);
    await disk.query('insert into logbook overriding system value select * from log');
    const put = `insert into logbook (id, person, action, text) overriding system value values (999999, 'Nobody', 'x', 'Put in')`;
    expect(await told(put)).toEqual([
      'added: Entry 999999 of the logbook is in no link of the chain: it was put in beside Drive Keep.',
    ]);
    await disk.query('delete from logbook where id = 999999');
    await disk.query(`create temp table signed as select b.* from baseline b
                        join position p on p.id = b.position_id where p.tag = 'KL1-RD-07'`);
    const exchanged = await told(
      `update baseline b set signed_by = 'Somebody else' from signed s where b.id = s.id and b.revision = 2`,
    );
    expect(exchanged).toEqual([
      'signature: Revision 2 of the baseline of KL1-RD-07 is not what was signed: one of its facts was exchanged.',
      expect.stringMatching(/^changed: The baseline [0-9a-f-]{36} was changed after it was kept\.$/),
    ]);
    const missing = await told(`delete from baseline b using signed s where b.id = s.id and b.revision = 2`);
    expect(missing[0]).toBe(
      'signature: Revision 3 of the baseline of KL1-RD-07 does not follow the one before: a revision is missing.',
    );
    await disk.query('delete from baseline b using signed s where b.id = s.id');
    await disk.query('insert into baseline select * from signed');
    const moved = (by: string) =>
      `update last_look l set at = at ${by} interval '1 hour' from position p where p.id = l.position_id and p.tag = 'KL1-RD-03'`;
    expect(await told(moved('+'))).toEqual([
      'look: What the register shows as the newest look at KL1-RD-03 does not follow from its backups.',
    ]);
    expect(await told(moved('-'))).toEqual([]);
  });
});
