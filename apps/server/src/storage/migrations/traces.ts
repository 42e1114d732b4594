import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Signals of a unit over time. While one is recorded its pieces stand beside it, so that a server that ends loses seconds. */
export class Traces1764000000027 implements MigrationInterface {
  name = 'Traces1764000000027';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table trace (
        id uuid primary key default gen_random_uuid(),
        position_id uuid not null references position,
        dictionary_id text not null references dictionary,
        -- Of the unit that was watched; nothing for a file that somebody brought.
        serial bigint,
        title text not null,
        signals jsonb not null,
        every_ms integer not null,
        seconds integer not null,
        -- What the unit itself held when it began: ramps, and what they count to.
        settings jsonb not null,
        state text not null check (state in ('recording', 'kept')),
        began_at timestamptz not null,
        began_by text not null,
        stop_requested boolean not null default false,
        last_piece_at timestamptz,
        ended_at timestamptz,
        -- Why it ended before its time; empty where it did not.
        ended_why text not null default '',
        markers jsonb not null default '[]',
        samples bytea,
        count integer not null default 0,
        hash text,
        constraint trace_whole check ((state = 'kept') = (samples is not null and hash is not null and ended_at is not null))
      );
      create index trace_position on trace (position_id, began_at desc);
      create table trace_piece (
        trace_id uuid not null references trace,
        number integer not null,
        samples bytea not null,
        primary key (trace_id, number)
      );
      create function only_recording_trace() returns trigger language plpgsql as $$
      begin
        if old.state = 'recording' then return new; end if;
        raise exception '% keeps what it holds: rows are neither changed nor deleted', tg_table_name;
      end $$;
      create trigger kept before delete or truncate on trace for each statement execute function refuse_change();
      create trigger recorded before update on trace for each row execute function only_recording_trace();
    `);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
