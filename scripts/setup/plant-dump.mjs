// A whole plant as one file, and back: PostgreSQL's own dump, proved by reading it back before anybody relies on it. Works on
// databases beside the real one, so that a file that cannot be read changes nothing.

import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { run } from './command.mjs';
import { root } from './folders.mjs';
import { PlainError } from './say.mjs';

/** Letters that begin every dump of pg_dump in its own format. */
const BEGINS = 'PGDMP';

/** What a restored copy says of itself: it talks to no unit, and nobody is signed in. */
const BECOME_A_COPY = `
  insert into plant (id, name, is_copy) values (true, '', true) on conflict (id) do update set is_copy = true;
  delete from session;`;

export class PlantDump {
  /** `url`: of the plant's database; `bin`: folder of PostgreSQL's programs. */
  constructor(url, bin) {
    this.url = new URL(url);
    this.bin = bin;
  }

  /** Writes beside the file and renames, once a restore of it has proved right. */
  async save(file) {
    const fresh = `${file}.new`;
    rmSync(fresh, { force: true });
    try {
      this.tool('pg_dump', ['--format=custom', '--no-owner', '--file', fresh, this.url.href]);
      await this.beside('proof', fresh, (url) => this.verify(url));
      renameSync(fresh, file);
    } finally {
      rmSync(fresh, { force: true });
    }
    return statSync(file).size;
  }

  /** Into the plant's database, which has to be empty; that is filled in one go at the end. */
  async restore(file) {
    requireDump(file);
    if (this.ask(this.url.href, "select count(*) from pg_tables where schemaname = 'public'") !== '0')
      throw new PlainError(
        'There is a plant in this database already. Restore into an empty folder: --data DIR. Nothing was changed.',
      );
    await this.beside('restored', file, async (url) => {
      this.requireKnown(url);
      await this.verify(url);
      this.ask(url, BECOME_A_COPY);
      this.takePlace(url);
    });
  }

  /** The dump in a database of its own, for as long as the work takes. */
  async beside(what, file, work) {
    const url = new URL(this.url);
    url.pathname = `/drive_keep_${what}_${process.pid}`;
    const name = url.pathname.slice(1);
    const home = new URL(this.url);
    home.pathname = '/postgres';
    this.ask(home.href, `create database "${name}"`);
    try {
      this.unpack(file, url);
      return await work(url.href);
    } finally {
      this.ask(home.href, `drop database if exists "${name}" with (force)`);
    }
  }

  unpack(file, url) {
    try {
      this.tool('pg_restore', ['--no-owner', '--exit-on-error', '--dbname', url.href, file]);
    } catch (error) {
      throw new PlainError(
        `${file} cannot be read to its end: it is damaged or was cut off. Take another backup. Nothing was changed. (${error.message})`,
      );
    }
  }

  /** Migrations that this version does not know were made by a newer one. */
  requireKnown(url) {
    const made = this.ask(url, 'select name from migrations order by id').split('\n').filter(Boolean);
    const folder = join(root, 'apps/server/src/storage/migrations');
    const known = readdirSync(folder)
      .map((name) => readFileSync(join(folder, name), 'utf8'))
      .join('\n');
    const unknown = made.filter((name) => !known.includes(`'${name}'`));
    if (unknown.length > 0)
      throw new PlainError(
        `This backup was made by a newer Drive Keep (${unknown.join(', ')}). Update this one first, then restore. Nothing was changed.`,
      );
  }

  /** Hashes everything that is kept in it. */
  async verify(url) {
    const program = join(root, 'apps/server/dist/integrity/check-kept.js');
    const env = { ...process.env, DATABASE_URL: url };
    const { code, output } = await run(process.execPath, [program], { env });
    if (code !== 0)
      throw new PlainError(
        `What was kept in it is damaged; the file is not to be relied on:\n${output.trim()}`,
      );
  }

  /** The restored database takes the place of the empty one under its name. */
  takePlace(restored) {
    const home = new URL(this.url);
    home.pathname = '/postgres';
    const [name, fresh] = [this.url.pathname.slice(1), new URL(restored).pathname.slice(1)];
    this.ask(home.href, `drop database "${name}" with (force)`);
    this.ask(home.href, `alter database "${fresh}" rename to "${name}"`);
  }

  ask(url, sql) {
    return this.tool('psql', [
      '--no-psqlrc',
      '--tuples-only',
      '--no-align',
      '-v',
      'ON_ERROR_STOP=1',
      '-c',
      sql,
      url,
    ]).trim();
  }

  tool(program, args) {
    const path = existsSync(join(this.bin, program)) ? join(this.bin, program) : program;
    // Whoever lists processes sees their arguments: the password goes another way.
    const open = args.map((each) => (each.startsWith('postgres') ? withoutPassword(each) : each));
    const env = { ...process.env, PGPASSWORD: decodeURIComponent(this.url.password) };
    const done = spawnSync(path, open, { encoding: 'utf8', env });
    if (done.error)
      throw new PlainError(`${program} is not there. It comes with PostgreSQL's client programs.`);
    if (done.status === 0) return done.stdout;
    throw new PlainError(`${program} did not come to its end: ${done.stderr.trim().split('\n').at(-1)}`);
  }
}

function withoutPassword(url) {
  const open = new URL(url);
  open.password = '';
  return open.href;
}

function requireDump(file) {
  if (!existsSync(file)) throw new PlainError(`${file} is not there.`);
  if (readFileSync(file).subarray(0, BEGINS.length).toString('latin1') !== BEGINS)
    throw new PlainError(
      `${file} is no backup of a plant: npm run backup-plant makes them. Nothing was changed.`,
    );
}
