import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { Dictionary, LineFacts, Parameter } from '@drive-keep/core/dictionary';
import { ok } from '@drive-keep/core/values';
import { loadModels } from '@drive-keep/plant-sim';
import type { DriveLine } from './drive-line.ts';
import { startsIt, UnitWriter } from './unit-writer.ts';

const MODELS = [...loadModels(join(import.meta.dirname, '../../../../packages/catalogue/models')).values()];
const COMMANDED = MODELS.filter(({ line }) => line?.command);

/** A line that takes every write and notes its registers. */
function line(): DriveLine & { readonly written: number[] } {
  const written: number[] = [];
  return {
    ...{ largestRead: 125, requests: 0, written },
    read: (_, __, count) => Promise.resolve(ok(Array.from({ length: count }, () => 0))),
    write: (_, address, words) => {
      written.push(...words.map((__, at) => address + at));
      return Promise.resolve(ok(undefined));
    },
    close: () => undefined,
  };
}

const writerOf = (dictionary: Dictionary, drive: DriveLine): UnitWriter =>
  new UnitWriter({ line: drive, address: 1, serial: 1, dictionary });

describe('the registers by which a controller runs a drive', () => {
  it.each(COMMANDED.map((model) => [model.id, model] as const))(
    'of a %s are no parameters of it, and neither save nor restart',
    (_, model) => {
      const facts = model.line as LineFacts;
      const hit = model.parameters.filter(
        ({ register }) => register && startsIt(facts, register.address, register.width / 16),
      );
      expect(hit.map(({ code }) => code)).toEqual([]);
      for (const place of [facts.save, facts.restart])
        if (place) expect(startsIt(facts, place.register, 1)).toBe(false);
    },
  );

  it.each(COMMANDED.map((model) => [model.id, model] as const))(
    'of a %s are never written, even where its model calls them a parameter, a save or a restart',
    async (_, model) => {
      const facts = model.line as LineFacts;
      const command = facts.command?.register ?? 0;
      for (const [register, width] of [
        [command, 16],
        [command - 1, 32],
        [facts.command?.speed?.register ?? command, 16],
      ] as const) {
        const drive = line();
        const disguised: Dictionary = {
          ...model,
          line: {
            ...facts,
            save: { register: command, value: 1, busyMs: 1 },
            restart: { register: command, value: 1, busyMs: 1 },
          },
          parameters: model.parameters.map((each, at): Parameter =>
            at === 0 ? { ...each, register: { address: register, width, signed: false } } : each,
          ),
        };
        const writer = writerOf(disguised, drive);
        const code = disguised.parameters[0]?.code ?? '';
        const written = await writer.write({ code, toRaw: 1, busyMs: 0 });
        expect(written).toMatchObject({ ok: false, fault: { doubtful: false } });
        expect(await writer.save()).toContain('starts nothing');
        expect(await writer.restart()).toContain('starts nothing');
        expect(drive.written).toEqual([]);
      }
    },
  );
});
