import type { MigrationInterface, QueryRunner } from 'typeorm';

/** The file of a model's faults, beside its others. Where there is none, the hash of the files stays what it was. */
export class Faults1764000000026 implements MigrationInterface {
  name = 'Faults1764000000026';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      alter table dictionary add column faults_file text;
      alter table dictionary_revision add column faults_file text;
      alter table model_draft add column faults_file text;
      create or replace function only_mending_dictionary() returns trigger language plpgsql as $$
      declare
        files text[] := '{model_file,parameters_file,terminals_file,faults_file}';
        text text := new.model_file || chr(31) || new.parameters_file || chr(31) || coalesce(new.terminals_file, '')
          || coalesce(chr(31) || new.faults_file, '');
      begin
        if to_jsonb(new) - files = to_jsonb(old) - files
           and new.files_hash = 'sha256:' || encode(sha256(convert_to(text, 'UTF8')), 'hex') then
          return new;
        end if;
        raise exception '% keeps what it holds: rows are neither changed nor deleted', tg_table_name;
      end $$;
    `);
  }

  /** What was kept is never taken back. */
  down(): Promise<void> {
    throw new Error('restore a copy of the database instead');
  }
}
