// Loaded into a server process before anything of it: counts its effects, and ends it without a warning just before the one
// that it was told. Effects are what is seen outside of it: statements that change the database or take a lock, and frames to
// a line. What a process does for itself while nobody asks anything of it, such as looking into the queue, does not count.

import { Socket } from 'node:net';
import pg from 'pg';

type Order =
  | { readonly kind: 'go' }
  | { readonly kind: 'count'; readonly dieBefore: number | null }
  | { readonly kind: 'counted' };

const CHANGES = /^\s*(insert|update|delete|with|commit|begin|start transaction|savepoint)|pg_advisory/i;
const OF_ITS_OWN = /skip locked|queue\.(version|schedule|queue|subscription)|account_session|known_device/i;
const linePorts = new Set(
  Object.values(JSON.parse(process.env['DEMO_LINES'] ?? '{}') as Record<string, number>),
);

/** How often the server looks which rounds are due. */
const ROUNDS_LOOK_MS = 20_000;

let effects = 0;
let last = Infinity;

function effect(): void {
  effects += 1;
  if (effects >= last) process.kill(process.pid, 'SIGKILL');
}

/** Has `before` called with what a method is called with, ahead of the method itself. */
function ahead(
  prototype: object,
  name: string,
  before: (self: unknown, args: readonly unknown[]) => void,
): void {
  const methods = prototype as Record<string, (...args: unknown[]) => unknown>;
  const original = methods[name];
  if (!original) throw new Error(name);
  methods[name] = function (this: unknown, ...args: unknown[]): unknown {
    before(this, args);
    return original.apply(this, args);
  };
}

ahead(pg.Client.prototype, 'query', (_, [first]) => {
  const text = typeof first === 'string' ? first : ((first as { text?: string } | undefined)?.text ?? '');
  if (CHANGES.test(text) && !OF_ITS_OWN.test(text)) effect();
});
ahead(Socket.prototype, 'write', (socket) => {
  if (linePorts.has((socket as Socket).remotePort ?? 0)) effect();
});

// The clock of rounds looks so often that a test need not wait for it.
const { setInterval: usual } = globalThis;
globalThis.setInterval = (work: () => void, ms?: number) => usual(work, ms === ROUNDS_LOOK_MS ? 500 : ms);

await import('../app.module.ts');
// All of it is loaded; it begins when the one before is gone.
await new Promise<void>((resolve) => {
  process.on('message', (order: Order) => {
    if (order.kind === 'go') resolve();
    if (order.kind === 'count') {
      effects = 0;
      last = order.dieBefore ?? Infinity;
    }
    if (order.kind === 'counted') process.send?.({ effects });
  });
});
