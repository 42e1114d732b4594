// A server process of its own, for tests that take it away.

import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { pathToFileURL } from 'node:url';
import { Caller, MODELS_FOLDER } from './running-plant.ts';

const ROOT = join(import.meta.dirname, '../..');
/** What is compiled starts in half the time; without it the sources are run. */
const BUILT = process.env['SERVER_BUILT'] === '1' || import.meta.filename.endsWith('.js');

export interface ServerProcess {
  readonly child: ChildProcess;
  readonly base: string;
}

export async function startServer(
  databaseUrl: string,
  lines: Readonly<Record<string, number>>,
  preload?: string,
): Promise<ServerProcess> {
  const child = spawnServer(databaseUrl, lines, preload);
  return { child, base: await listening(child) };
}

/**
 * One that may not listen yet: `preload`, a module of this folder, is loaded before anything of the server, and may hold it
 * until it is told to go.
 */
export function spawnServer(
  databaseUrl: string,
  lines: Readonly<Record<string, number>>,
  preload?: string,
): ChildProcess {
  const at = (name: string) => join(ROOT, BUILT ? `dist/${name}.js` : `src/${name}.ts`);
  const args = [
    ...(BUILT ? [] : ['--conditions=source', '--import', '@swc-node/register/esm-register']),
    ...(preload === undefined ? [] : ['--import', pathToFileURL(at(`testing/${preload}`)).href]),
    at('main'),
  ];
  const env = {
    ...process.env,
    NODE_OPTIONS: '',
    DATABASE_URL: databaseUrl,
    MODELS: MODELS_FOLDER,
    PORT: '0',
    DEMO_LINES: JSON.stringify(lines),
    SWC_NODE_PROJECT: join(ROOT, 'tsconfig.json'),
  };
  const child = spawn(process.execPath, args, {
    cwd: ROOT,
    env,
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
  });
  // Each try of a test waits for its end.
  return child.setMaxListeners(0);
}

/** Its address, as soon as it says that it listens. */
export async function listening(child: ChildProcess): Promise<string> {
  const said = await new Promise<string>((resolve, reject) => {
    child.once('exit', (code) => reject(new Error(`ended with ${code}`)));
    createInterface({ input: child.stdout as NodeJS.ReadableStream }).once('line', resolve);
  });
  const { listening: port } = JSON.parse(said) as { listening: number };
  return `http://127.0.0.1:${port}`;
}

export async function signInAt(
  base: string,
  name = 'technician',
  password = 'roller-table',
): Promise<Caller> {
  const response = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, password }),
  });
  return new Caller(base, (response.headers.get('set-cookie') ?? '').split(';')[0] ?? '');
}

/** Without a chance to clean up. */
export async function kill(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  child.kill('SIGKILL');
  await gone;
}
