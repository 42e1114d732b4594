// Debian packages, for what npm cannot bring: as root, or with sudo that asks for no password.

import { mkdirSync, writeFileSync } from 'node:fs';
import { run, succeeds } from './command.mjs';
import { PlainError, say } from './say.mjs';

const isRoot = () => process.getuid?.() === 0;

/** Installs the package, or ends with one sentence that says what to install. */
export async function installDebian(name, what) {
  const sudo = isRoot() ? [] : succeeds('sudo', ['-n', 'true']) ? ['sudo', '-n'] : undefined;
  if (!sudo || !succeeds('apt-get', ['--version'])) {
    throw new PlainError(
      `${what} is needed and not here: install it (on Debian: sudo apt-get install ${name}) and run this again.`,
    );
  }
  say(`Installing ${what} from Debian's packages …`);
  if (isRoot() && name === 'postgresql') preventSystemCluster();
  const apt = async (...args) => {
    const [program, ...rest] = [...sudo, 'apt-get', ...args];
    return run(program, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  };
  await apt('update');
  const { code, output } = await apt('install', '-y', '--no-install-recommends', name);
  if (code !== 0) throw new PlainError(`${what} could not be installed: ${output.trim().split('\n').at(-1)}`);
}

/** The Debian package would make and start a cluster of its own, which nobody here needs. */
function preventSystemCluster() {
  mkdirSync('/etc/postgresql-common/createcluster.d', { recursive: true });
  writeFileSync('/etc/postgresql-common/createcluster.d/no-main.conf', 'create_main_cluster = false\n');
}
