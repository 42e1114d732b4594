// An old unit and its successor as the cross-reference makes it, both simulated and worked by the same hands: they do the same
// where the walk says so, and each difference that it tells shows on them.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { sameBehaviour, type Event } from '@drive-keep/core/behaviour';
import { readCrossReference, replace } from '@drive-keep/core/replace';
import {
  anyEvent,
  anySettings,
  anyWish,
  bridge,
  modelNamed,
  outfitOf,
  readingsOf,
  SEEDED,
  wishedWiring,
} from '@drive-keep/core/testing';
import fc from 'fast-check';
import type { Report } from './firmware.ts';
import { BenchUnit } from './testing/bench-unit.ts';

const FOLDER = join(import.meta.dirname, '../../catalogue/cross-references');
const RUNS = 25;
const EVENTS = 50;
/** Half a step of the coarser model, and the dust of two ways to compute it. */
const NEAR = 0.051;
const SEEN = ['starts', 'does-not-start', 'direction', 'speed'];

const same = (a: Report, b: Report): boolean =>
  a.runs === b.runs &&
  a.reverse === b.reverse &&
  (a.setpoint === undefined || b.setpoint === undefined || Math.abs(a.setpoint - b.setpoint) <= NEAR);

/** What a walk does: whole ways of a signal, no wire that stays broken, no key but reset. */
const isWalked = (event: Event): boolean =>
  event.kind === 'key'
    ? event.key === 'reset'
    : !['break', 'mend'].includes(event.kind) &&
      !(event.kind === 'device' && ![0, 0.5, 1, 2].includes(event.to));

describe.each(readdirSync(FOLDER))('by %s', (file) => {
  const [oldName = '', freshName = ''] = file.replace('.yaml', '').split('--');
  const [old, fresh] = [modelNamed(`${oldName}@1`), modelNamed(`${freshName}@1`)];
  const read = readCrossReference(readFileSync(join(FOLDER, file), 'utf8'), old, fresh);
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  const outfits = { old: outfitOf(old), fresh: outfitOf(fresh) };
  let proved = 0;
  let differed = 0;

  it('both units do what the walk over both says', () => {
    fc.assert(
      fc.property(
        anySettings(old),
        anyWish,
        fc.array(anyEvent(old), { minLength: EVENTS, maxLength: EVENTS }),
        (settings, wish, events) => {
          const readings = new Map([...readingsOf(old, {}), ...settings]);
          const set = bridge.read(old, outfits.old, readings);
          const unit = { set, outfit: outfits.old, wiring: wishedWiring(old, wish, {}), onLine: false };
          const successor = { dictionary: fresh, outfit: outfits.fresh, cross: read.value };
          const made = replace(bridge, unit, successor, new Map(), new Map());
          const walked = sameBehaviour(made.old, made.machine, {
            ...{ mostPairs: 5000, mostDifferences: 5, keys: false },
          });
          const units = () =>
            [
              new BenchUnit(old.id, readings, made.old),
              new BenchUnit(fresh.id, made.settings.readings, made.machine),
            ] as const;
          for (const { aspect, events: way } of walked.differences) {
            if (!SEEN.includes(aspect)) continue;
            const [a, b] = units();
            for (const event of way) for (const each of [a, b]) each.happen(event);
            // A speed that one of both takes from elsewhere is not the set's to say.
            if (a.report.setpoint === undefined || b.report.setpoint === undefined) continue;
            differed += 1;
            expect([aspect, way, a.report, same(a.report, b.report)]).toEqual([aspect, way, a.report, false]);
          }
          if (!walked.same) return;
          proved += 1;
          const [a, b] = units();
          for (const event of [{ kind: 'supply' as const, on: true }, ...events.filter(isWalked)]) {
            for (const each of [a, b]) each.happen(event);
            expect([event, a.report, same(a.report, b.report)]).toEqual([event, a.report, true]);
          }
        },
      ),
      { ...SEEDED, numRuns: RUNS, endOnFailure: true },
    );
    expect(differed).toBeGreaterThan(0);
    expect(proved).toBeGreaterThan(0);
  });
});
