// Every point between two effects of every kind of work, and five hundred at chance, at which the process that does the work
// is gone: what has no end afterwards, or an end that is not true.

import { run } from '../setup/command.mjs';
import { root } from '../setup/folders.mjs';

const AT_CHANCE = '500';

export async function killsBench({ withDatabase }) {
  return withDatabase(async () => [
    await row('Kill points, each of every kind of work', 'all'),
    await row(`Kills at chance, ${AT_CHANCE}`, AT_CHANCE),
  ]);
}

async function row(what, kills) {
  const env = {
    ...process.env,
    KILLS: kills,
    JEST_PART: 'database',
  };
  const { code, output } = await run('npx', ['jest', 'kills'], { cwd: root, show: true, env });
  return {
    what,
    measured: code === 0 ? 'none without a true end' : output.split('\n').slice(-30).join('\n'),
    wanted: 'none without a true end',
  };
}
