// A write that breaks off at any of its requests, by whatever breaks there: what the unit holds is said, the rest is
// written, and all of it is taken back.

import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { Problem, WritePlanView } from '@drive-keep/api';
import { PER_STEP, READS, SectionSeven } from '../testing/section-seven.ts';

let section: SectionSeven;

beforeAll(async () => {
  section = await SectionSeven.start();
});
afterAll(() => section.stop());
beforeEach(() => section.standAsInTheStory());

describe('a write that breaks off', () => {
  /** From whatever the unit holds to the target, and then back to what it held before. */
  const bringThrough = async (plan: WritePlanView): Promise<void> => {
    await section.mend();
    const before = Object.fromEntries(section.held);
    const target = { ...before, ...Object.fromEntries(plan.steps.map(({ code, to }) => [code, to])) };
    const rest = await section.follow(plan.id, 'resume');
    expect([rest.state, rest.text]).toEqual(['done', expect.any(String)]);
    expect(section.heldNow()).toEqual(target);
    section.unit.memory.recall();
    expect(section.heldNow()).toEqual(target);
    const undone = await section.follow(plan.id, 'undo');
    expect([undone.state, undone.text]).toEqual(['done', expect.any(String)]);
    section.unit.memory.recall();
    expect(section.heldNow()).toEqual(before);
  };

  // Every request of the writes, the save and the backup after it.
  const requests = Array.from({ length: 4 * PER_STEP + 3 }, (_, at) => READS + at + 1);

  it.each(requests)('at request %i by a cut line is brought to its end, and taken back', async (request) => {
    const plan = await section.plan();
    section.unit.setMischief({ breakAfter: request });
    const ended = await section.carryOut(plan);
    const nothing = ended.steps.every(({ state }) => state === 'planned');
    expect(ended.state).toBe(nothing ? 'refused' : 'failed');
    const written = ended.steps.filter(({ state }) => state === 'written');
    for (const { code, to } of written) expect([code, section.unit.memory.get(code)]).toEqual([code, to]);
    for (const { code, from } of ended.steps.filter(({ state }) => state === 'planned'))
      expect([code, section.unit.memory.get(code)]).toEqual([code, from]);
    if (nothing) expect(ended.holds).toBe('Nothing was written.');
    else {
      expect(ended.holds).toMatch(
        new RegExp(`^${written.length} of 4 writes were read back .* what it holds now is not known\\.`),
      );
      const saving = ended.saved
        ? /They are saved permanently/
        : /not saved permanently|Whether they were saved/;
      expect(ended.holds).toMatch(saving);
    }
    if (nothing) {
      expect(ended.followUps).toEqual([]);
      return;
    }
    await bringThrough(ended);
  });

  it.each([0, 1, 2, 3])('before step %i by a start of the machine stops at once', async (step) => {
    const plan = await section.plan();
    section.unit.setMischief({ event: { after: READS + step * PER_STEP, what: 'start' } });
    const ended = await section.carryOut(plan);
    expect([ended.state, ended.text]).toEqual([
      step === 0 ? 'refused' : 'failed',
      expect.stringMatching(/is running\. Stop the machine/),
    ]);
    expect(ended.steps.filter(({ state }) => state === 'written')).toHaveLength(step);
    if (step > 0) await bringThrough(ended);
    else await section.mend();
  });

  it.each([1, 2, 3])(
    'before step %i because another unit was put in writes nothing into that',
    async (step) => {
      const plan = await section.plan();
      section.unit.setMischief({ swap: { after: READS + step * PER_STEP, serial: 4711 } });
      const ended = await section.carryOut(plan);
      expect([ended.state, ended.text]).toEqual([
        'failed',
        expect.stringMatching(/Serial number 4711 answers now/),
      ]);
      expect(ended.steps.filter(({ state }) => state === 'written')).toHaveLength(step);
      await bringThrough(ended);
    },
  );

  it.each([1, 2, 3, 4])('after step %i by a power cut, which takes what was not saved', async (step) => {
    const plan = await section.plan();
    section.unit.setMischief({ event: { after: READS + step * PER_STEP, what: 'power-cycle' } });
    const ended = await section.carryOut(plan);
    expect(ended.state).toBe('failed');
    expect(ended.saved).toBe(false);
    // What is said is what the reading after it shows, not what the steps would let one believe.
    expect(ended.holds).toMatch(
      new RegExp(
        `^Read afterwards: 0 of ${step} written values are in the unit\\. .* holds? the former value\\.$`,
      ),
    );
    expect(section.heldNow()).toEqual(Object.fromEntries(section.held));
    await bringThrough(ended);
  });

  it('has no rest where all was done, and can still be taken back', async () => {
    const done = await section.carryOut(await section.plan());
    expect(done.followUps).toEqual(['undo']);
    const none = await section.technician.post<Problem>(`write-plans/${done.id}/follow-ups`, {
      kind: 'resume',
    });
    expect([none.status, none.body.detail]).toEqual([409, expect.stringContaining('no rest to write')]);
    expect((await section.follow(done.id, 'undo')).state).toBe('done');
    expect(section.heldNow()).toEqual(Object.fromEntries(section.held));
  });

  it('is not followed while the unit does not answer, by a viewer, or on another unit', async () => {
    const done = await section.carryOut(await section.plan());
    const viewer = await section.plant.signIn('viewer');
    expect((await viewer.post(`write-plans/${done.id}/follow-ups`, { kind: 'undo' })).status).toBe(403);
    section.unit.setMischief({ silent: true });
    const silent = await section.technician.post<Problem>(`write-plans/${done.id}/follow-ups`, {
      kind: 'undo',
    });
    expect([silent.status, silent.body.detail]).toEqual([502, expect.stringContaining('did not answer')]);
  });
});
