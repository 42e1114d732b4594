import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What a plant of one's own needs beside its drives: lines with their settings, facts of the plant, people and their sessions. */
export class OwnPlant1764000000017 implements MigrationInterface {
  name = 'OwnPlant1764000000017';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table line
        add framing text not null default 'tcp' check (framing in ('tcp', 'rtu')),
        add timeout_ms integer not null default 1000 check (timeout_ms between 50 and 10000),
        add retries integer not null default 1 check (retries between 0 and 5),
        add pause_ms integer not null default 0 check (pause_ms between 0 and 1000),
        add largest_read integer not null default 125 check (largest_read between 1 and 125),
        add retired_at timestamptz,
        add version integer not null default 1;
      alter table plant
        add nightly_at text not null default '02:00',
        add overdue_hours integer not null default 36 check (overdue_hours between 1 and 10000),
        add mains_voltage integer check (mains_voltage between 100 and 1000),
        add mains_frequency integer check (mains_frequency in (50, 60)),
        add time_zone text not null default '',
        add decimal_mark text not null default 'point' check (decimal_mark in ('point', 'comma')),
        add address text not null default '',
        add may jsonb not null default '{}',
        add is_copy boolean not null default false,
        add version integer not null default 1;
      alter table account
        add disabled_at timestamptz,
        add version integer not null default 1;
      alter table session
        add id uuid not null unique default gen_random_uuid(),
        add seen_at timestamptz not null default now(),
        add browser text not null default '',
        add came_from text not null default '';
      create table model_draft (
        id uuid primary key default gen_random_uuid(),
        title text not null,
        model_file text not null,
        parameters_file text not null,
        terminals_file text,
        made_by text not null,
        made_at timestamptz not null default now(),
        changed_by text not null,
        changed_at timestamptz not null default now(),
        kept_as text,
        version integer not null default 1
      );
      create table script_token (
        id uuid primary key default gen_random_uuid(),
        name text not null check (name <> ''),
        role text not null check (role in ('viewer', 'technician', 'engineer')),
        token_hash text not null unique,
        made_by text not null,
        made_at timestamptz not null default now(),
        expires_at timestamptz not null,
        used_at timestamptz,
        ended_at timestamptz
      );
    `);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
