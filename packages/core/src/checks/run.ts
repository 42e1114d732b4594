// All checks on one position. What a check proposes as a mend was tried: the check found nothing more with it.

import type { Reading } from '../values/index.ts';
import { meaningOf, type Meaning } from '../values/index.ts';
import type { Code } from '../dictionary/index.ts';
import { writePlain, type Plain } from '../meanings/index.ts';
import { CHECKS } from './all/index.ts';
import { identityOf, type Check, type CheckMend, type Found, type Wish } from './check.ts';
import { groundWith, type Ground } from './ground.ts';
import { Look } from './look.ts';
import { Reach } from './reach.ts';

/** A check that found nothing and was not told all that it asked for. */
export interface UntoldCheck {
  readonly check: string;
  readonly missing: readonly string[];
}

export interface Report {
  /** What has to be mended before what should be looked at; in the order of the checks. */
  readonly found: readonly Found[];
  readonly untold: readonly UntoldCheck[];
  /** Checks that concern this drive; the others are about what its model does not have. */
  readonly looked: number;
}

export function runChecks(ground: Ground, checks: readonly Check[] = CHECKS): Report {
  const reach = new Reach(ground);
  const found: Found[] = [];
  const untold: UntoldCheck[] = [];
  let looked = 0;
  for (const check of checks) {
    const look = new Look(ground, reach);
    check.look(look);
    if (look.concerns) looked += 1;
    if (look.found.length === 0 && look.untold.size > 0)
      untold.push({ check: check.id, missing: [...look.untold] });
    for (const { wishes, raws, ...each } of look.found) {
      const one = { check: check.id, ...each, mends: [] };
      const wished = wishes.flatMap((wish) => rawsOf(ground, wish) ?? []);
      const mends = [...raws, ...wished].filter((mend) => isMended(ground, check, one, mend));
      found.push({ ...one, mends: unlike(mends) });
    }
  }
  const order = (attention: Found['attention']) => (attention === 'stop' ? 0 : 1);
  const sorted = [...found].sort((a, b) => order(a.attention) - order(b.attention));
  return { found: sorted, untold, looked };
}

const unlike = (mends: readonly CheckMend[]): readonly CheckMend[] => [
  ...new Map(mends.map((mend) => [JSON.stringify(mend), mend])).values(),
];

/** The raw values of a wish; nothing where the model cannot take it, or has it already. */
function rawsOf(ground: Ground, wish: Wish): [CheckMend] | undefined {
  const { set, outfit } = ground;
  const wanted = new Map<Meaning, Plain>(
    Object.entries(wish).map(([name, value]) => [meaningOf(name), plainOf(ground, name, value)]),
  );
  const base = new Map<Code, number>();
  for (const [code, reading] of set.readings) if (typeof reading === 'number') base.set(code, reading);
  const { readings, met } = writePlain(set.bridge, set.dictionary, outfit, wanted, base);
  if ([...met.values()].some(({ kind }) => kind !== 'exactly' && kind !== 'rounded')) return undefined;
  const changed = [...readings].flatMap(([code, raw]) => (base.get(code) === raw ? [] : [{ code, raw }]));
  return changed.length === 0 ? undefined : [changed];
}

/** Whether the check would find the same no more. */
function isMended(
  ground: Ground,
  check: Check,
  found: Pick<Found, 'check' | 'at'>,
  mend: CheckMend,
): boolean {
  const mended = new Map<Code, Reading>(ground.set.readings);
  for (const { code, raw } of mend) mended.set(code, raw);
  const after = groundWith(ground, mended);
  const look = new Look(after, new Reach(after));
  check.look(look);
  return look.found.every(({ at }) => identityOf({ check: check.id, at }) !== identityOf(found));
}

function plainOf({ set }: Ground, name: string, value: number | string): Plain {
  const how = { codes: [], how: null };
  if (typeof value === 'string') return { kind: 'choice', option: value, ...how };
  const unit = set.bridge.vocabulary.of(meaningOf(name))?.unit ?? '';
  return { kind: 'number', value, unit, step: 0, ...how };
}
