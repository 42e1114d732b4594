import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The wiring of each position, in revisions that are kept like a baseline. */
export class FieldWiring1764000000019 implements MigrationInterface {
  name = 'FieldWiring1764000000019';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table wiring_revision (
        position_id uuid not null references position,
        revision integer not null check (revision >= 1),
        dictionary_id text not null references dictionary,
        content text not null,
        -- Over all of it and the revision before: a revision proves to be the one that was kept.
        hash text not null,
        saved_at timestamptz not null,
        saved_by text not null,
        why text not null,
        primary key (position_id, revision)
      );
      create trigger kept before update or delete or truncate on wiring_revision
        for each statement execute function refuse_change();
    `);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
