import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  DecisionsView,
  HistoryView,
  IntegrityReport,
  NewProofSaying,
  Problem,
  ProofReading,
  ProofRunView,
  ProofStepView,
  ProofsView,
  WritePlanView,
} from '@drive-keep/api';
import type { SimUnit } from '@drive-keep/plant-sim';
import pg from 'pg';
import { EventStream } from '../testing/event-stream.ts';
import { atRest, pause, ProofHands } from '../testing/proof-hands.ts';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';

const TAG = 'KL1-RD-05';

let plant: RunningPlant;
let technician: Caller;
let engineer: Caller;
let viewer: Caller;
let unit: SimUnit;
let hands: ProofHands;

beforeAll(async () => {
  plant = await RunningPlant.start();
  [technician, engineer, viewer] = await Promise.all([
    plant.signIn('technician'),
    plant.signIn('engineer'),
    plant.signIn('viewer'),
  ]);
  unit = plant.unit(TAG);
  // Ramps for which nobody waits long.
  for (const meaning of ['ramp.up', 'ramp.down']) unit.memory.force(plant.code(meaning), 200);
  await technician.ask('POST', 'backups', { positions: [TAG], reason: 'Short ramps' });
  await plant.backUp(technician, TAG);
  hands = new ProofHands(technician, unit);
});
afterAll(() => plant.stop());

const begin = async (tag = TAG, more: Record<string, unknown> = {}, who = technician) =>
  who.post<ProofRunView & Problem>(`positions/${tag}/proofs`, {
    ...{ set: 'newest', scope: 'whole', why: 'After the work on the section', ...more },
  });
const say = (run: string, sayings: readonly Partial<NewProofSaying>[], who = technician) =>
  who.ask<ProofRunView & Problem>('PUT', `proofs/${run}/sayings`, {
    sayings: sayings.map((each) => ({ evidence: null, seen: '', toldAt: new Date().toISOString(), ...each })),
  });
const named = ({ planned }: ProofRunView, id: string): ProofStepView => {
  const found = planned.find((step) => step.id === id);
  if (!found) throw new Error(`no step ${id}: ${planned.map((step) => step.id).join(', ')}`);
  return found;
};
const sayAll = (run: ProofRunView, who = technician) =>
  say(
    run.id,
    run.planned.map(({ id }) => ({ step: id, verdict: 'passed' as const, seen: 'As described' })),
    who,
  );

async function onDisk(statement: string): Promise<unknown> {
  const client = new pg.Client({ connectionString: plant.database.url });
  await client.connect();
  try {
    return (await client.query(statement)).rows;
  } finally {
    await client.end();
  }
}

describe('a proof run of a unit on a line', () => {
  let run: ProofRunView;

  it('is worked out from its set and wiring when it begins; nobody begins a second one', async () => {
    const { status, body } = await begin();
    expect(status).toBe(201);
    run = body;
    expect(run).toMatchObject({
      tag: TAG,
      state: 'open',
      serial: unit.serial,
      wiringRevision: 1,
      leftOut: 0,
    });
    expect(run.planned.length).toBeGreaterThan(14);
    expect(
      run.planned.filter(({ watched }) => !watched).every(({ part }) => part === 'hand' || part === 'stops'),
    ).toBe(true);
    const again = await begin();
    expect([again.status, again.body.detail]).toEqual([409, expect.stringContaining('open already')]);
    expect((await begin(TAG, {}, viewer)).status).toBe(403);
    const { body: list } = await viewer.get<ProofsView>(`positions/${TAG}/proofs`);
    expect(list).toMatchObject({ asked: null, runs: [{ id: run.id, state: 'open', passed: 0 }] });
  });

  it('takes its evidence by itself while somebody works the contact', async () => {
    const evidence = await hands.goThrough(run.id, named(run, 'S2=2'));
    expect(evidence).toMatchObject({ state: 'passed', step: 'S2=2', by: 'T. Pellow', likely: [] });
    const { body } = await viewer.get<readonly ProofReading[]>(`proofs/${run.id}/evidence/${evidence.id}`);
    expect(body.length).toBe(evidence.readings);
    const input = run.inputs.find(({ terminal }) => terminal === '26')?.number ?? '';
    expect(body.flatMap(({ inputs }) => (inputs ? [inputs[input]] : []))).toEqual([false, true]);
  }, 60_000);

  it('measures ramps against their settings', async () => {
    const step = run.planned.find(({ part }) => part === 'ramps') as ProofStepView;
    const evidence = await hands.goThrough(run.id, step);
    expect(evidence).toMatchObject({ state: 'passed' });
    expect(evidence.figures.join()).toMatch(
      /Up in 2\.[01] s .* set to 2\.0 s,Down in (1\.9|2\.[01]) s .* set to 2\.0 s/,
    );
  }, 60_000);

  it('finds a wire that sits at the terminal of another, and names both', async () => {
    const at = (terminal: string) =>
      Object.entries(unit.wired?.floor.plan.conductors ?? {}).find(
        ([name, ends]) => name.startsWith('wire') && ends.includes(terminal),
      )?.[0] ?? '';
    unit.wired?.cross(at('25'), at('26'));
    const evidence = await hands.goThrough(run.id, named(run, 'S2=1'));
    unit.wired?.cross(at('25'), at('26'));
    expect(evidence).toMatchObject({ state: 'failed' });
    expect(evidence.text).toContain('terminal 26 instead of terminal 25');
    expect(evidence.likely.join(' ')).toMatch(/wire \w+ from S2:\d+ sits at terminal 26, and belongs to 25/);
    const said = await say(run.id, [{ step: 'S2=1', verdict: 'failed', evidence: evidence.id }]);
    expect(said.body).toMatchObject({ failed: 1, passed: 0 });
  }, 60_000);

  it('passes no step on evidence that says otherwise, or on nothing', async () => {
    const { body } = await viewer.get<ProofRunView>(`proofs/${run.id}`);
    const [failed] = body.evidence.filter(({ state }) => state === 'failed');
    const refused = [
      { step: 'S2=1', verdict: 'passed' as const, evidence: failed?.id ?? '' },
      { step: 'S2=3', verdict: 'passed' as const },
      { step: 'S2=3', verdict: 'not-done' as const, seen: '  ' },
      { step: 'S2=3', verdict: 'passed' as const, evidence: failed?.id ?? '' },
      { step: 'no such step', verdict: 'passed' as const, seen: 'Seen' },
    ];
    for (const each of refused) {
      const { status, body: problem } = await say(run.id, [each]);
      expect([status, problem.detail]).toEqual([409, expect.stringContaining('Nothing was changed.')]);
    }
    // One bad word among good ones: none is taken.
    const good = { step: 'S2=3', verdict: 'passed' as const, seen: 'Terminal 27 lit' };
    expect((await say(run.id, [good, refused[1] ?? good])).status).toBe(409);
    const { body: now } = await viewer.get<ProofRunView>(`proofs/${run.id}`);
    expect(now.sayings.map(({ step }) => step)).toEqual(['S2=1']);
  });

  it('begins a step anew when the line was lost in its middle', async () => {
    let lost = false;
    const evidence = await hands.goThrough(run.id, named(run, 'S1=1 S2=1'), async (at) => {
      if (at !== 1 || lost) return;
      lost = true;
      unit.setMischief({ silent: true });
      await pause(3500);
      unit.setMischief({ silent: false });
      await pause(1500);
      // Nobody saw what happened meanwhile: the step begins with everything at rest.
      await atRest(unit);
      await pause(1500);
      hands.do('S1=1');
      await pause(1200);
    });
    expect(evidence).toMatchObject({ state: 'passed' });
    const { body } = await viewer.get<readonly ProofReading[]>(`proofs/${run.id}/evidence/${evidence.id}`);
    expect(body.some(({ silent }) => silent === true)).toBe(true);
  }, 90_000);

  it('shows that every setting is still there after the supply was away, or which is not', async () => {
    const still = await hands.goThrough(run.id, named(run, 'values'));
    expect([still.state, still.text]).toEqual([
      'passed',
      expect.stringMatching(/^All \d+ settings are still there\.$/),
    ]);
    // Tried out and never saved: gone after the power cycle, and so is what was kept of it.
    const code = plant.code('preset.contact.1');
    const raw = unit.memory.get(code);
    unit.memory.force(code, raw + 100);
    const other = await hands.goThrough(run.id, named(run, 'values'));
    unit.memory.force(code, raw);
    expect([other.state, other.text]).toEqual([
      'failed',
      expect.stringContaining(`not what they were: ${code}.`),
    ]);
  }, 120_000);

  it('does not pass what the unit refuses to tell, and says of how many settings nothing is known', async () => {
    const { line, parameters } = plant.dictionary;
    const registers = (wanted: (meaning: string | null, access: string) => boolean) =>
      parameters.flatMap(({ meaning, access, register }) =>
        register && wanted(meaning, access) ? [register.address] : [],
      );
    unit.setMischief({ refuse: registers((meaning) => meaning === 'preset.contact.2') });
    const still = await hands.goThrough(run.id, named(run, 'values'));
    expect(still.state).toBe('failed');
    expect(still.text).toContain('1 could not be read: nothing is known of them.');
    unit.setMischief({ refuse: registers((meaning) => meaning === 'monitor.inputs') });
    expect([line !== null, registers((meaning) => meaning === 'monitor.inputs').length]).toEqual([true, 1]);
    await atRest(unit);
    const stream = await hands.watch(run.id, 'S2=2');
    await pause(1500);
    hands.do('S2=2');
    await pause(2500);
    stream.close();
    unit.setMischief({ refuse: [] });
    const told = stream.events.flatMap((each) => ('judgement' in each ? [each.judgement] : []));
    expect(told.length).toBeGreaterThan(5);
    expect(told.every(({ state, stage }) => state === 'waits' && stage === 0)).toBe(true);
  }, 60_000);

  it('keeps what was seen when somebody leaves in the middle, as not judged', async () => {
    await atRest(unit);
    const stream = await hands.watch(run.id, 'S1=1 S2=1');
    await until(() =>
      stream.events.some((each) => 'judgement' in each && each.judgement.stage > 0) ? true : undefined,
    );
    stream.close();
    const left = await until(async () => {
      const { body } = await viewer.get<ProofRunView>(`proofs/${run.id}`);
      return body.evidence.find(({ state }) => state === 'unjudged');
    });
    expect(left.text).toBe('Watching ended before it could be told.');
  }, 30_000);

  it('takes words of several people, and says where they say otherwise', async () => {
    await say(run.id, [{ step: 'S2=3', verdict: 'passed', seen: 'Terminal 27 lit' }]);
    const { body } = await say(run.id, [{ step: 'S2=3', verdict: 'failed', seen: 'It did not' }], engineer);
    expect(body.sayings.find(({ step }) => step === 'S2=3')).toMatchObject({
      ...{ verdict: 'failed', by: 'R. Ashgrove', other: { by: 'T. Pellow', verdict: 'passed' } },
    });
    // A device that got no answer brings its word once more.
    const toldAt = '2026-01-01T10:00:00.000Z';
    const word = { step: 'S9=1 S9=0', verdict: 'passed' as const, seen: 'Lit', toldAt };
    await say(run.id, [word]);
    await say(run.id, [{ ...word, verdict: null, toldAt: '2026-01-01T10:01:00.000Z' }]);
    const { body: again } = await say(run.id, [word]);
    // The clock of the device is wrong by months: when it came is kept beside.
    const last = again.sayings.find(({ step }) => step === 'S9=1 S9=0');
    expect(last).toMatchObject({ verdict: null, toldAt: '2026-01-01T10:01:00.000Z' });
    expect(Date.now() - Date.parse(last?.at ?? '')).toBeLessThan(60_000);
  });

  it('is closed when everything was said, and stays as it is', async () => {
    const early = await technician.post<Problem>(`proofs/${run.id}/close`);
    expect([early.status, early.body.detail]).toEqual([
      409,
      expect.stringContaining('nobody has said anything'),
    ]);
    const { body: said } = await sayAll(run);
    expect(said).toMatchObject({ passed: run.planned.length, failed: 0 });
    const [one, other] = await Promise.all([
      technician.post<ProofRunView>(`proofs/${run.id}/close`),
      technician.post<ProofRunView>(`proofs/${run.id}/close`),
    ]);
    expect([one.status, other.status].sort()).toEqual([200, 409]);
    const { body } = await viewer.get<ProofRunView>(`proofs/${run.id}`);
    expect(body).toMatchObject({ state: 'closed', passed: run.planned.length, endedBy: 'T. Pellow' });
    expect((await say(run.id, [{ step: 'S2=1', verdict: 'failed', seen: 'Too late' }])).status).toBe(409);
    const stream = EventStream.open(technician, `proofs/${run.id}/watching?step=rest`);
    await expect(stream).rejects.toThrow('has ended');
    const change = `update proof_end set passed = 99 where run_id = '${run.id}'`;
    await expect(onDisk(change)).rejects.toThrow('keeps what it holds');
  });

  it('is named by the signature of what it proved, and looked after like all evidence', async () => {
    const codes = [plant.code('ramp.up'), plant.code('ramp.down')];
    const decision = { codes, kind: 'take-in', reason: 'Proved with these ramps' };
    await technician.ask('PUT', `positions/${TAG}/decisions`, decision);
    await technician.post(`positions/${TAG}/decisions/finish`);
    const { body } = await viewer.get<DecisionsView>(`positions/${TAG}/decisions`);
    const { draft } = body;
    expect(draft?.proof).toMatchObject({ id: run.id, passed: run.planned.length });
    await engineer.post(`baseline-drafts/${draft?.id ?? ''}/sign`, { wiring: draft?.wiring ?? null });
    const { body: history } = await viewer.get<HistoryView>(`positions/${TAG}/history`);
    expect(history.baselines.map(({ proof }) => proof)).toEqual([
      ...history.baselines.slice(1).map(() => null),
      run.id,
    ]);
    const clean = await engineer.post<IntegrityReport>('integrity');
    expect(clean.body.findings).toEqual([]);
    // Somebody changes beside the product what was said, and what was signed with it.
    await onDisk(`
      alter table proof_saying disable trigger kept;
      update proof_saying set seen = 'Something else' where id = (select min(id) from proof_saying);
      alter table proof_saying enable trigger kept;
      alter table proof_end disable trigger kept;
      update proof_end set record = replace(record, 'passed', 'proved') where run_id = '${run.id}';
      alter table proof_end enable trigger kept;`);
    const { body: found } = await engineer.post<IntegrityReport>('integrity');
    const text = found.findings.map((each) => each.text).join(' ');
    expect(text).toMatch(/Word \d+ of a proof run was changed/);
    expect(text).toContain(`The end of the proof run ${run.id} was changed`);
    const shown = await viewer.get<Problem>(`proofs/${run.id}`);
    expect([shown.status, shown.body.detail]).toEqual([500, expect.stringContaining('is damaged')]);
  });
});

describe('proof runs are asked for', () => {
  const OTHER = 'KL1-RD-06';

  it('after values were written, of what matters since the last one', async () => {
    expect((await viewer.get<ProofsView>(`positions/${OTHER}/proofs`)).body).toEqual({
      runs: [],
      asked: null,
    });
    const never = await begin(OTHER, { scope: 'changed' });
    expect([never.status, never.body.detail]).toEqual([
      409,
      expect.stringContaining('prove the whole of it'),
    ]);
    const { body: whole } = await begin(OTHER);
    const [first = { id: '' }, ...others] = whole.planned;
    await say(whole.id, [
      { step: first.id, verdict: 'failed', seen: 'The contact of S1 is dirty' },
      ...others.map(({ id }) => ({ step: id, verdict: 'passed' as const, seen: 'As described' })),
    ]);
    await technician.post(`proofs/${whole.id}/close`);
    const code = plant.code('preset.contact.3');
    plant.unit(OTHER).memory.force(code, plant.unit(OTHER).memory.get(code) + 100);
    await plant.backUp(technician, OTHER);
    // Nothing was written by the product; the change is in the set all the same.
    const { body: matters } = await begin(OTHER, { scope: 'changed' });
    const ids = matters.planned.map(({ id }) => id);
    expect(ids).toEqual(expect.arrayContaining([first.id, 'S1=1 S2=3', 'values']));
    expect(matters.planned.length + matters.leftOut).toBe(whole.planned.length);
    expect(matters.leftOut).toBeGreaterThan(8);
    expect(matters.since?.id).toBe(whole.id);
    await technician.post(`proofs/${matters.id}/give-up`, { why: 'Only tried' });
    expect((await viewer.get<ProofRunView>(`proofs/${matters.id}`)).body).toMatchObject({
      ...{ state: 'given-up', endedWhy: 'Only tried' },
    });
    const { body: plan } = await technician.post<WritePlanView>(`positions/${OTHER}/write-plans`, {
      ...{ target: 'baseline', codes: [code] },
    });
    await atRest(plant.unit(OTHER));
    await technician.post(`write-plans/${plan.id}/release`, { stoppedAndSafe: true });
    await technician.post(`write-plans/${plan.id}/carry-out`);
    expect(await plant.planEnd(technician, plan.id)).toMatchObject({ state: 'done' });
    const { body: list } = await viewer.get<ProofsView>(`positions/${OTHER}/proofs`);
    expect(list.asked).toMatchObject({ text: 'Values were written by T. Pellow', whole: false });
  }, 120_000);

  it('of the whole after another unit came in, with which nobody goes on with the old run', async () => {
    const { body: run } = await begin(OTHER);
    plant.replaceUnit(OTHER, { dictionary: 'halvern-hn64@1', serial: 64_000_777, firmware: 204 });
    const swap = {
      dictionary: 'halvern-hn64@1',
      rating: run.rating,
      region: '50-hz',
      serial: 64_000_777,
      firmware: '2.4',
    };
    const swapped = await engineer.post<Problem>(`positions/${OTHER}/swap`, { ...swap, reason: 'Failed' });
    expect([swapped.status, swapped.body.detail]).toEqual([200, undefined]);
    const late = await say(run.id, [{ step: 'rest', verdict: 'passed', seen: 'Stands' }]);
    expect([late.status, late.body.detail]).toEqual([409, expect.stringContaining('Another unit sits at')]);
    await technician.post(`proofs/${run.id}/give-up`, { why: 'Another unit' });
    const { body: list } = await viewer.get<ProofsView>(`positions/${OTHER}/proofs`);
    expect(list.asked).toMatchObject({
      text: expect.stringMatching(/^Unit serial 64000777 came in/),
      whole: true,
    });
  }, 60_000);

  it('is typed where the unit has no line', async () => {
    const tag = 'GL-BE-02';
    const { body: run, status } = await begin(tag, { set: 'baseline' });
    expect([status, run.hasLine, run.planned.some(({ watched }) => watched)]).toEqual([201, false, false]);
    await expect(EventStream.open(technician, `proofs/${run.id}/watching?step=rest`)).rejects.toThrow(
      'has no line',
    );
    expect((await sayAll(run)).body.passed).toBe(run.planned.length);
  });
});
