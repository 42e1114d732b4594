import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What the checks found at each position as it stands, and what somebody has accepted of it. */
export class Checks1764000000025 implements MigrationInterface {
  name = 'Checks1764000000025';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table check_run (
        position_id uuid primary key references position,
        -- Of everything that the checks looked at; another one means that it has to be checked again.
        ground_hash text not null,
        content_hash text not null,
        checked_at timestamptz not null,
        looked integer not null,
        untold jsonb not null
      );
      create table check_finding (
        position_id uuid not null references position,
        identity text not null,
        signature text not null,
        place integer not null,
        check_id text not null,
        attention text not null check (attention in ('stop', 'look')),
        -- The sentence as it was found: a later program may say the same otherwise, or not at all.
        text text not null,
        "values" jsonb not null,
        mends jsonb not null,
        since timestamptz,
        primary key (position_id, identity)
      );
      create table finding_acceptance (
        id uuid primary key default gen_random_uuid(),
        position_id uuid not null references position,
        identity text not null,
        signature text not null,
        text text not null,
        reason text not null,
        until date not null,
        person text not null,
        accepted_at timestamptz not null default now(),
        ended_at timestamptz,
        ended_by text
      );
      create index finding_acceptance_open on finding_acceptance (position_id, identity) where ended_at is null;
      -- Trips of a residual-current device before the supply's units, in mA; 0 where there is none, nothing where nobody said.
      alter table supply add residual_milliamps integer check (residual_milliamps between 0 and 30000);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(
      'drop table finding_acceptance, check_finding, check_run; alter table supply drop residual_milliamps',
    );
  }
}
