import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Supplies with what was measured at them, and cabinets; a position belongs to one of each. */
export class SiteFacts1764000000020 implements MigrationInterface {
  name = 'SiteFacts1764000000020';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table supply (
        id uuid primary key default gen_random_uuid(),
        name text not null unique,
        nominal_volts integer not null check (nominal_volts between 100 and 1000),
        frequency integer not null check (frequency in (50, 60)),
        version integer not null default 1
      );
      create table supply_measurement (
        id bigint generated always as identity primary key,
        supply_id uuid not null references supply,
        volts numeric(5, 1) not null check (volts > 0),
        at timestamptz not null,
        person text not null,
        note text not null default ''
      );
      create index supply_measurement_newest on supply_measurement (supply_id, at desc, id desc);
      create trigger kept before update or delete or truncate on supply_measurement
        for each statement execute function refuse_change();
      create table cabinet (
        id uuid primary key default gen_random_uuid(),
        name text not null unique,
        -- The warmest that is met there, in °C; nothing where nobody has said.
        ambient integer check (ambient between -20 and 80),
        version integer not null default 1
      );
      alter table position
        add supply_id uuid references supply,
        add cabinet_id uuid references cabinet;
    `);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
