// Writes after which a unit may not be reached any more: last, said, stated, and read back by what the line then is.

import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { Problem, WritePlanView } from '@drive-keep/api';
import { SectionSeven } from '../testing/section-seven.ts';

let section: SectionSeven;

beforeAll(async () => {
  section = await SectionSeven.start();
});
afterAll(() => section.stop());
beforeEach(() => section.standAsInTheStory());

/** Towards values that the unit held when an older backup of it was taken. */
async function planTo(values: Readonly<Record<string, number>>): Promise<WritePlanView> {
  const codes = Object.keys(values).map((meaning) => section.plant.code(meaning));
  const before = codes.map((code) => section.unit.memory.get(code));
  codes.forEach((code, at) => section.unit.memory.force(code, Object.values(values)[at] ?? 0));
  const job = await section.plant.backUp(section.technician, SectionSeven.tag);
  codes.forEach((code, at) => section.unit.memory.force(code, before[at] ?? 0));
  await section.plant.backUp(section.technician, SectionSeven.tag);
  return section.plan(Object.keys(values), `backup:${job.items[0]?.backupId ?? ''}`);
}

const release = (id: string) =>
  section.technician.post(`write-plans/${id}/release`, { stoppedAndSafe: true });
const begin = (id: string, how: object) =>
  section.technician.post<WritePlanView & Problem>(`write-plans/${id}/carry-out`, how);

describe('a plan that changes the line itself', () => {
  it('does so after everything else, and only when somebody states that it is known', async () => {
    const plan = await planTo({ 'network.baud': 2, 'network.parity': 2, 'ramp.up': 777 });
    expect(plan.steps.map(({ phase }) => phase)).toEqual(['settings', 'line', 'line']);
    expect(plan.cutOffs.map(({ text }) => text)).toEqual([
      expect.stringMatching(/38400.*after its next restart.*Set the gateway/),
      expect.stringMatching(/odd.*after its next restart.*Set the gateway/),
    ]);
    await release(plan.id);
    const blind = await begin(plan.id, {});
    expect([blind.status, blind.body.type]).toEqual([422, 'urn:drive-keep:cut-off-not-stated']);
    const proof = await begin(plan.id, { cutOffKnown: true, restartCheck: true });
    expect([proof.status, proof.body.type]).toEqual([422, 'urn:drive-keep:cut-off-by-restart']);
    expect(section.heldNow()).toEqual(Object.fromEntries(section.held));
    expect((await begin(plan.id, { cutOffKnown: true })).status).toBe(202);
    const done = await section.plant.planEnd(section.technician, plan.id);
    expect([done.state, done.text]).toEqual(['done', expect.stringContaining('Set the gateway')]);
  });

  it('reads a unit whose word order has been turned, before and after its restart', async () => {
    const plan = await planTo({ 'network.wordOrder': 1 });
    await release(plan.id);
    await begin(plan.id, { cutOffKnown: true, restartCheck: true });
    const done = await section.plant.planEnd(section.technician, plan.id);
    expect([done.state, done.text]).toEqual(['done', expect.stringContaining('Still there after a restart')]);
    const job = await section.plant.backUp(section.technician, SectionSeven.tag);
    expect(job.items[0]?.outcome).toBe('kept');
    const back = await section.follow(done.id, 'undo').catch((error: unknown) => error);
    // The way back turns the line once more: it is stated anew.
    expect(back).toBeInstanceOf(Error);
    section.unit.memory.force(section.plant.code('network.wordOrder'), 0);
    section.unit.powerCycle();
    await section.mend();
  });

  it('says of a lock against writes that it is the last write that is taken', async () => {
    const plan = await planTo({ 'network.writeLock': 1, 'ramp.up': 888 });
    expect(plan.steps.at(-1)?.phase).toBe('lock');
    expect(plan.cutOffs[0]?.text).toMatch(/takes no other write over the network/);
    await release(plan.id);
    await begin(plan.id, { cutOffKnown: true });
    expect((await section.plant.planEnd(section.technician, plan.id)).state).toBe('done');
  });
});
