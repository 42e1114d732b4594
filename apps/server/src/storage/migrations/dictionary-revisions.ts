import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Later wordings of kept dictionaries, beside them: nothing that was kept is changed. */
export class DictionaryRevisions1764000000018 implements MigrationInterface {
  name = 'DictionaryRevisions1764000000018';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      create table dictionary_revision (
        dictionary_id text not null references dictionary,
        revision integer not null check (revision >= 2),
        model_file text not null,
        parameters_file text not null,
        terminals_file text,
        files_hash text not null,
        imported_by text,
        imported_at timestamptz not null default now(),
        primary key (dictionary_id, revision)
      );
      create trigger kept before delete or truncate on dictionary_revision
        for each statement execute function refuse_change();
      create trigger mended before update on dictionary_revision
        for each row execute function only_mending_dictionary();
    `);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
