// npm start: everything from nothing to a running Drive Keep with its demo plant.
//
//   --port N    where the interface is (8420)
//   --fresh     make the demo anew; what the demo held is thrown away
//   --plain     no demo data, no simulated plant, no demo accounts (npm run serve)
//   --data DIR  where the data is (.data)
//   --host ADDR where it listens: 127.0.0.1 (only this machine), 0.0.0.0 for the network of the plant
//   --https     with a certificate of a local authority that is made on the first start; --name NAME adds a name to it
//   --cert FILE --key FILE   https with a certificate of your own, both in PEM
//   --proxy ADDR  the proxy in front whose X-Forwarded-For, -Proto and -Host are believed (address, or "loopback")
//
// With DATABASE_URL set that server is used and none is started.

import { existsSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { hostname } from 'node:os';
import { join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { ensureBuilt } from './setup/build.mjs';
import { Children } from './setup/children.mjs';
import { run } from './setup/command.mjs';
import { modelsFolder, root, webFolder } from './setup/folders.mjs';
import { ensurePackages, requireNode } from './setup/packages.mjs';
import { becomesFree, isFree } from './setup/ports.mjs';
import { Cluster, postgresBin } from './setup/postgres.mjs';
import { clearRecord, record, takeOver } from './setup/run-record.mjs';
import { PlainError, runMain, say } from './setup/say.mjs';

const DEFAULT_PORT = '8420';

function readOptions() {
  const names = {
    ...{ port: 'string', data: 'string', fresh: 'boolean', plain: 'boolean' },
    ...{ host: 'string', https: 'boolean', name: 'string', cert: 'string', key: 'string', proxy: 'string' },
  };
  try {
    const { values } = parseArgs({
      options: Object.fromEntries(Object.entries(names).map(([name, type]) => [name, { type }])),
    });
    const port = Number(values.port ?? DEFAULT_PORT);
    if (!Number.isInteger(port) || port < 1 || port > 65535) throw new Error(`${values.port} is not a port`);
    if (values.fresh && values.plain)
      throw new Error('--fresh is for the demo; it would throw real data away');
    if ((values.cert === undefined) !== (values.key === undefined))
      throw new Error('--cert and --key belong together: name both files');
    return { ...values, port, host: values.host ?? process.env.HOST ?? '127.0.0.1' };
  } catch (error) {
    throw new PlainError(
      `${error.message}. Known options: --port N, --fresh, --plain, --data DIR, --host ADDR, --https, --name NAME, --cert FILE, --key FILE, --proxy ADDR.`,
    );
  }
}

class Installation {
  constructor(folder, options) {
    this.folder = folder;
    this.options = options;
    this.children = new Children();
    const scheme = options.https || options.cert ? 'https' : 'http';
    const everywhere = options.host === '0.0.0.0' || options.host === '::';
    this.url = `${scheme}://${everywhere ? hostname() : options.host}:${options.port}`;
  }

  async run() {
    if (this.options.fresh) await this.throwAway();
    mkdirSync(this.folder, { recursive: true });
    const over = new Promise((resolve) => {
      for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, resolve);
      this.onDeath = (name) => {
        say(`The ${name} has ended by itself; everything else is ended too. Start again.`);
        process.exitCode = 1;
        resolve();
      };
    });
    try {
      const database = await this.database();
      const lines = this.options.plain ? undefined : await this.simulatedPlant();
      const ready = await this.server(database, lines);
      this.record();
      this.tell(ready);
      await over;
    } finally {
      await this.children.end();
      this.cluster?.stop();
      clearRecord(this.folder);
    }
  }

  /** Written as soon as there is a child, so that a crash at any time leaves nothing that cannot be found. */
  record() {
    record(this.folder, { children: this.children.ids, url: this.url, control: this.control });
  }

  async database() {
    if (process.env.DATABASE_URL) return process.env.DATABASE_URL;
    const fast = process.env.DRIVE_KEEP_TEST === '1';
    this.cluster = new Cluster(this.folder, await postgresBin(), { fast });
    return this.cluster.start();
  }

  /** Starts the simulated plant; answers with the ports of its lines. */
  async simulatedPlant() {
    const description = join(this.folder, 'plant.json');
    if (!existsSync(description)) {
      const describe = join(root, 'apps/server/dist/demo/describe-plant.js');
      const { code, output } = await run(process.execPath, [describe, '--models', modelsFolder]);
      if (code !== 0) throw new PlainError(`The simulated plant could not be described:\n${output}`);
      writeFileSync(description, output);
    }
    const main = join(root, 'packages/plant-sim/dist/main.js');
    const state = join(this.folder, 'plant-memory.json');
    const args = [main, '--plant', description, '--models', modelsFolder, '--state', state];
    const starting = this.children.start('simulated plant', args, { onDeath: this.onDeath });
    this.record();
    const { lines, control } = await starting;
    this.control = control;
    return lines;
  }

  async server(database, lines) {
    const env = {
      DATABASE_URL: database,
      MODELS: modelsFolder,
      WEB: webFolder,
      PORT: String(this.options.port),
      NODE_ENV: 'production',
      HOST: this.options.host,
      ...this.https(),
      ...(this.options.proxy ? { TRUSTED_PROXY: this.options.proxy } : {}),
      ...(lines ? { DEMO_LINES: JSON.stringify(lines) } : {}),
    };
    const main = join(root, 'apps/server/dist/main.js');
    const starting = this.children.start('server', [main], { env, onDeath: this.onDeath });
    this.record();
    return starting;
  }

  https() {
    const { https, cert, key, name } = this.options;
    if (cert) return { HTTPS_CERT: resolve(cert), HTTPS_KEY: resolve(key) };
    if (!https) return {};
    return { HTTPS_FOLDER: join(this.folder, 'https'), ...(name ? { HTTPS_NAMES: name } : {}) };
  }

  tell({ accounts, firstAccount, fingerprint }) {
    say(`\nDrive Keep is at ${this.url}\n`);
    for (const { role, signInName, password } of accounts) {
      say(`  ${role.padEnd(11)} name ${signInName.padEnd(11)} password ${password}`);
    }
    if (firstAccount) {
      say(
        `  First account: name ${firstAccount.name}, one-time password ${firstAccount.password} (shown only now)`,
      );
    }
    if (fingerprint) {
      say(`\n  Phones are told once to trust this installation: ${this.url}/trust`);
      say(`  Fingerprint of its authority: ${fingerprint}`);
    }
    if (this.control) say(`\n  Plant floor (simulated): http://127.0.0.1:${this.control}/`);
    say('\nCtrl-C ends it.');
  }

  /** The demo is made anew in an empty folder and database; a database of yours is never emptied. */
  async throwAway() {
    if (process.env.DATABASE_URL) {
      throw new PlainError(
        '--fresh does not empty the database of DATABASE_URL. Give it an empty database instead.',
      );
    }
    if (!existsSync(this.folder)) return;
    const cluster = new Cluster(this.folder, await postgresBin());
    cluster.stop();
    rmSync(cluster.home, { recursive: true, force: true });
    rmSync(this.folder, { recursive: true, force: true });
  }
}

await runMain(async () => {
  const options = readOptions();
  requireNode();
  const folder = resolve(options.data ?? join(root, options.plain ? '.data/plain' : '.data/demo'));
  const cleared = takeOver(folder);
  const free = cleared ? await becomesFree(options.port) : await isFree(options.port);
  if (!free) {
    throw new PlainError(
      `Port ${options.port} is taken by another program. Choose one: npm start -- --port ${options.port + 1}`,
    );
  }
  await ensurePackages();
  await ensureBuilt();
  await new Installation(folder, options).run();
});
