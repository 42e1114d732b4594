// A sequence of events as a part of the address, so that it can be sent to a colleague: `on.S1~1.wait.S1~0.key~run`.
// `fromAddress(toAddress(x)) = x`; what is not understood is left out.

import type { FaultClass } from '@drive-keep/core/dictionary';
import type { Event, Key } from '@drive-keep/core/behaviour';

/** More than anybody does by hand. */
const MOST_EVENTS = 200;
const KEYS: readonly string[] = ['run', 'stop', 'reset', 'hand', 'automatic'] satisfies readonly Key[];

const escape = (text: string): string =>
  encodeURIComponent(text).replaceAll('.', '%2E').replaceAll('~', '%7E');

export const toAddress = (events: readonly Event[]): string => events.map(partOf).join('.');

function partOf(event: Event): string {
  switch (event.kind) {
    case 'supply':
      return event.on ? 'on' : 'off';
    case 'settle':
      return 'wait';
    case 'key':
      return `key~${event.key}`;
    case 'fault':
      return `fault~${event.of}`;
    case 'break':
    case 'mend':
      return `${event.kind}~${escape(event.what)}`;
    case 'device':
      return `at~${escape(event.name)}~${escape(String(event.to))}`;
  }
}

export function fromAddress(text: string): readonly Event[] {
  const parts = text === '' ? [] : text.split('.').slice(0, MOST_EVENTS);
  return parts.flatMap((part) => eventOf(part) ?? []);
}

function eventOf(part: string): Event | undefined {
  const [kind = '', ...cells] = part.split('~');
  let what = '';
  let more = '';
  try {
    [what = '', more = ''] = cells.map(decodeURIComponent);
  } catch {
    return undefined;
  }
  if (kind === 'on' || kind === 'off') return { kind: 'supply', on: kind === 'on' };
  if (kind === 'wait') return { kind: 'settle' };
  if (kind === 'key' && KEYS.includes(what)) return { kind, key: what as Key };
  if (kind === 'fault' && what !== '') return { kind, of: what as FaultClass };
  if ((kind === 'break' || kind === 'mend') && /^((wire|link) \d+|at .+:.+)$/.test(what))
    return { kind, what };
  const to = Number(more);
  return kind === 'at' && what !== '' && Number.isFinite(to) ? { kind: 'device', name: what, to } : undefined;
}
