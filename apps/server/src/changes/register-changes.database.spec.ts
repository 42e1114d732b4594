import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  BackupMark,
  HistoryView,
  PlantListPreview,
  PositionDetailView,
  Problem,
  RegisterOutline,
  RegisterPage,
  StartedJob,
} from '@drive-keep/api';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let engineer: Caller;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  engineer = await plant.signIn('engineer');
  technician = await plant.signIn('technician');
});
afterAll(() => plant.stop());

const detail = async (tag: string) => (await technician.get<PositionDetailView>(`positions/${tag}`)).body;
const page = async (query: string) => (await technician.get<RegisterPage>(`register?${query}`)).body;
const tagsOf = ({ positions }: RegisterPage) => positions.map(({ tag }) => tag);
const marks = async (tag: string): Promise<readonly BackupMark[]> =>
  (await technician.get<HistoryView>(`positions/${tag}/history`)).body.backups;

const OTHER = {
  dictionary: 'halvern-hn64@1',
  rating: 'HN64-15',
  region: '50-hz',
  serial: 6_499_001,
  firmware: '2.11',
};

describe('the register in parts', () => {
  it('gives every position once, whatever the size of the parts', async () => {
    const tags: string[] = [];
    for (let from = 0; ; from = tags.length) {
      const part = await page(`from=${from}&most=10`);
      tags.push(...tagsOf(part));
      if (tags.length >= part.total) break;
    }
    expect([tags.length, new Set(tags).size]).toEqual([42, 42]);
    expect(tags).toEqual(tagsOf(await page('most=500')));
  });

  it('filters by area, model, criticality, state and words, and counts the states of what is left', async () => {
    expect((await page(`area=${encodeURIComponent('Kiln 1')}`)).total).toBe(15);
    expect((await page('model=quenby-s4')).total).toBe(3);
    expect(tagsOf(await page('find=glaze+pump'))).toEqual(['GL-PU-01']);
    const [first] = (await page('')).positions;
    expect(tagsOf(await page(`find=${first?.unit.serial ?? ''}`))).toEqual([first?.tag]);
    const kiln = await page(`area=${encodeURIComponent('Kiln 1')}&state=drift`);
    expect(tagsOf(kiln)).toEqual(['KL1-RD-07', 'KL1-CA-01']);
    expect(kiln.counts).toEqual({ 'other-unit': 1, silent: 1, drift: 2, 'as-signed': 11 });
    expect((await page('criticality=high&model=halvern-hn20')).positions.map(({ tag }) => tag)).toEqual([
      'BP-AG-01',
    ]);
    expect((await technician.get('register?state=nonsense')).status).toBe(400);
  });

  it('sorts by what was asked for, and backwards', async () => {
    const byTag = tagsOf(await page('sort=tag'));
    expect(byTag).toEqual([...byTag].sort());
    expect(tagsOf(await page('sort=tag&backwards=yes'))).toEqual([...byTag].reverse());
    expect(tagsOf(await page('sort=state')).slice(0, 3)).toEqual(['KL1-RD-10', 'BP-AG-03', 'KL1-RD-12']);
    expect(tagsOf(await page('sort=backup'))[0]).toBe('PR-PB-01');
    expect(tagsOf(await page('sort=differences'))[0]).toBe('KL1-CA-01');
  });
});

/** As somebody does who has just looked at it. */
const changePosition = async <T = Problem>(tag: string, change: object) =>
  engineer.ask<T>('PATCH', `positions/${tag}`, { ...change, version: (await detail(tag)).version });
const changeUnit = async <T = Problem>(tag: string, change: object) =>
  engineer.ask<T>('PUT', `positions/${tag}/unit`, { ...change, version: (await detail(tag)).unitVersion });

describe('a position', () => {
  it('is changed and moved, with what it was before in the logbook', async () => {
    const { status, body } = await changePosition<PositionDetailView>('DR-CF-03', {
      duty: 'Dryer circulation fan 3, spare',
      criticality: 'low',
      machine: 'Spare fans',
    });
    expect([status, body.duty, body.area, body.machine]).toEqual([
      200,
      'Dryer circulation fan 3, spare',
      'Drying',
      'Spare fans',
    ]);
    const { body: log } = await technician.get<{ entries: { text: string; person: string }[] }>(
      'logbook?tag=DR-CF-03',
    );
    expect(log.entries[0]?.text).toBe(
      'Changed in the register: duty from "Dryer circulation fan 3" to "Dryer circulation fan 3, spare"; criticality from "middle" to "low"; machine from "Circulation fans" to "Spare fans".',
    );
    const { body: outline } = await technician.get<RegisterOutline>('register/outline');
    expect(outline.areas.find(({ name }) => name === 'Drying')?.machines).toContainEqual({
      name: 'Spare fans',
      positions: 1,
    });
  });

  it('takes its history along under another tag, and no tag that is taken', async () => {
    const before = await marks('DR-CF-02');
    const taken = await changePosition('DR-CF-02', { tag: 'DR-CF-01' });
    expect([taken.status, taken.body.detail]).toEqual([422, expect.stringContaining('DR-CF-01 is taken')]);
    await changePosition('DR-CF-02', { tag: 'DR-CF-20' });
    expect(await marks('DR-CF-20')).toEqual(before);
    expect((await technician.get('positions/DR-CF-02')).status).toBe(404);
  });

  it('keeps its motor of the library through other changes, and takes no text in its place', async () => {
    const before = await detail('DR-CF-01');
    const { tag, duty, area, machine, criticality, motor } = before;
    const same = { tag, area, machine, criticality, motor };
    await changePosition('DR-CF-01', { ...same, duty: `${duty}, north` });
    expect(await detail('DR-CF-01')).toMatchObject({
      motor,
      motorId: before.motorId,
      duty: `${duty}, north`,
    });
    const { body: log } = await technician.get<{ entries: { text: string }[] }>('logbook?tag=DR-CF-01');
    expect(log.entries[0]?.text).not.toContain('motor');
    const other = await changePosition('DR-CF-01', { motor: 'Something else' });
    expect([other.status, other.body.detail]).toEqual([422, expect.stringContaining('one of the library')]);
  });

  it('is retired and brought back; its history stays, its unit may not be used meanwhile', async () => {
    const before = await marks('SP-OB-03');
    await engineer.post('register/retire', { positions: ['SP-OB-03'], reason: 'Belt taken out' });
    expect(tagsOf(await page(''))).not.toContain('SP-OB-03');
    expect(tagsOf(await page('state=retired'))).toEqual(['SP-OB-03']);
    expect(await marks('SP-OB-03')).toEqual(before);
    const start = await technician.post<Problem>('backups', { positions: ['SP-OB-03'], reason: 'Test' });
    expect([start.status, start.body.detail]).toEqual([409, expect.stringContaining('is retired')]);
    const back = await engineer.ask<PositionDetailView>('DELETE', 'positions/SP-OB-03/retirement');
    expect([back.body.retiredAt, back.body.formerUnits.length]).toEqual([null, 1]);
    expect((await plant.backUp(technician, 'SP-OB-03')).items[0]?.outcome).toBe('kept');
  });

  it('that two people edit keeps what the first one has changed, and the second one is told', async () => {
    const seen = await detail('DR-CF-01');
    const ask = (duty: string) =>
      engineer.ask<Problem>('PATCH', 'positions/DR-CF-01', { duty, version: seen.version });
    const both = await Promise.all([ask('Fan of one person'), ask('Fan of another')]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(both.find(({ status }) => status === 409)?.body.detail).toContain('changed by somebody else');
    const kept = (await detail('DR-CF-01')).duty;
    const { unit, unitVersion } = seen;
    const facts = {
      ...{ dictionary: unit.dictionary, rating: unit.rating, region: unit.region, serial: unit.serial },
      ...{ line: unit.line?.name, lineAddress: unit.line?.address, version: unitVersion },
    };
    // Of the unit nobody has changed anything: whoever corrects it is not held up.
    const corrected = await engineer.ask('PUT', 'positions/DR-CF-01/unit', { ...facts, firmware: '1.99' });
    expect(corrected.status).toBe(200);
    const late = await engineer.ask('PUT', 'positions/DR-CF-01/unit', { ...facts, firmware: '1.98' });
    expect([late.status, (await detail('DR-CF-01')).duty]).toEqual([409, kept]);
  });

  it('is changed by an engineer only', async () => {
    for (const [method, path, body] of [
      ['PATCH', 'positions/DR-CF-01', { duty: 'x' }],
      ['PUT', 'positions/DR-CF-01/unit', OTHER],
      ['POST', 'register/retire', { positions: ['DR-CF-01'], reason: 'x' }],
      ['PATCH', 'areas/Drying', { name: 'x' }],
    ] as const)
      expect((await technician.ask(method, path, body)).status).toBe(403);
  });
});

describe('a unit', () => {
  it('that is swapped leaves its row and the history; the new one counts as not backed up', async () => {
    const before = await detail('KL1-RD-11');
    const history = await marks('KL1-RD-11');
    const swap = { ...OTHER, line: before.unit.line?.name, lineAddress: before.unit.line?.address };
    const { status, body } = await technician.post<PositionDetailView>('positions/KL1-RD-11/swap', {
      ...swap,
      reason: 'Output stage failed',
    });
    expect([status, body.unit.serial, body.newestIsOfUnit]).toEqual([200, OTHER.serial, false]);
    expect(body.formerUnits).toMatchObject([{ serial: before.unit.serial, why: 'Output stage failed' }]);
    expect(await marks('KL1-RD-11')).toEqual(history);
    // The old unit still answers at the address: it is not the one of the register any more.
    expect((await plant.backUp(technician, 'KL1-RD-11')).items[0]?.outcome).toBe('other-serial');
    const twice = await technician.post<Problem>('positions/KL1-RD-08/swap', { ...OTHER, reason: 'x' });
    expect([twice.status, twice.body.detail]).toEqual([422, expect.stringContaining('is at KL1-RD-11')]);
    // A unit that was taken out may come back.
    const back = { ...swap, serial: before.unit.serial, firmware: before.unit.firmware, reason: 'Repaired' };
    expect((await technician.post('positions/KL1-RD-11/swap', back)).status).toBe(200);
    expect((await plant.backUp(technician, 'KL1-RD-11')).items[0]?.outcome).toBe('kept');
    expect((await detail('KL1-RD-11')).newestIsOfUnit).toBe(true);
  });

  it('is corrected, but not turned into another unit', async () => {
    const { unit } = await detail('KL1-RD-05');
    const facts = {
      ...{ dictionary: unit.dictionary, rating: unit.rating, region: unit.region },
      ...{ serial: unit.serial, firmware: '2.12', line: unit.line?.name, lineAddress: unit.line?.address },
    };
    const corrected = await changeUnit<PositionDetailView>('KL1-RD-05', facts);
    expect([corrected.status, corrected.body.unit.firmware]).toEqual([200, '2.12']);
    const ask = async (change: object) =>
      (await changeUnit('KL1-RD-05', { ...facts, ...change })).body.detail;
    expect(await ask({ serial: 6_499_777 })).toMatch(/another number is another unit: record a swap/);
    expect(await ask({ dictionary: 'toreka-f3@1' })).toMatch(/another drive: record a swap/);
    expect(await ask({ rating: 'HN64-999' })).toMatch(/has no rating HN64-999.*Ratings: HN64-08/);
    const neighbour = await detail('KL1-RD-06');
    expect(await ask({ line: neighbour.unit.line?.name, lineAddress: neighbour.unit.line?.address })).toMatch(
      /belongs to KL1-RD-06/,
    );
    expect((await detail('KL1-RD-05')).unit.firmware).toBe('2.12');
    // Without its line it is a keypad-only unit from now on.
    const alone = { ...facts, line: undefined, lineAddress: undefined };
    const off = await changeUnit<PositionDetailView>('KL1-RD-05', alone);
    expect([off.status, off.body.unit.line]).toEqual([200, null]);
    await changeUnit('KL1-RD-05', facts);
  });

  it('is in one place only, however many ask at once', async () => {
    const position = (number: number) => ({
      ...OTHER,
      ...{ area: 'Kiln 2', machine: 'Roller sections', criticality: 'low', motor: '', serial: 6_498_000 },
      ...{ tag: `KL2-RD-0${number}`, duty: `Kiln 2 roller section ${number}` },
    });
    const answers = await Promise.all([1, 2, 3, 4].map((at) => engineer.post('positions', position(at))));
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 422, 422, 422]);
    expect((await page(`area=${encodeURIComponent('Kiln 2')}`)).total).toBe(1);
  });
});

describe('areas and machines', () => {
  it('are renamed and moved with everything in them', async () => {
    await engineer.ask('PATCH', 'areas/Glazing', { name: 'Glazing line' });
    const path = `areas/${encodeURIComponent('Glazing line')}/machines/Glaze`;
    const moved = await engineer.ask<RegisterOutline>('PATCH', path, {
      area: 'Body preparation',
      name: 'Glaze',
    });
    expect(moved.status).toBe(200);
    expect((await detail('GL-PU-01')).area).toBe('Body preparation');
    expect((await detail('GL-BE-01')).area).toBe('Glazing line');
    const clash = await engineer.ask<Problem>('PATCH', 'areas/Drying', { name: 'Pressing' });
    expect([clash.status, clash.body.detail]).toEqual([422, expect.stringContaining('Pressing already')]);
    expect((await engineer.ask('PATCH', 'areas/Nowhere', { name: 'x' })).status).toBe(404);
  });
});

describe('a plant list', () => {
  const list = (text: string | Uint8Array<ArrayBuffer>, hash?: string) => {
    const form = new FormData();
    if (hash) form.set('hash', hash);
    form.set('file', new Blob([text]), 'plant.csv');
    return form;
  };
  const preview = async (text: string | Uint8Array<ArrayBuffer>) =>
    (await engineer.post<PlantListPreview & Problem>('plant-list/preview', list(text))).body;
  const HEAD = 'tag;duty;area;machine;model;rating;region;serial;firmware;line;address\r\n';
  const NEW =
    'KL3-RD-01;Kiln 3 roller section 1;Kiln 3;Roller sections;HN64;HN64-15;50-hz;6497001;2.05;gateway-3;90\r\n';

  it('that was saved comes back as the same, from CSV and XLSX', async () => {
    for (const format of ['csv', 'xlsx']) {
      const answer = await engineer.raw(`plant-list?format=${format}`);
      const seen = await preview(new Uint8Array(await answer.arrayBuffer()));
      expect(new Set(seen.rows.map(({ does }) => does))).toEqual(new Set(['nothing']));
      expect(seen.rows.length).toBe((await page('')).total);
    }
  });

  it('is looked at without a change, and then does what was shown', async () => {
    const before = await page('');
    const text = `${HEAD}${NEW}KL1-RD-04;Kiln 1 roller section 4, slow;Kiln 1;Roller sections;HN64;HN64-15;50-hz;6401248;2.07;gateway-1;4\r\n;;;;\r\n`;
    const seen = await preview(text);
    expect(seen.rows.map(({ tag, does }) => [tag, does])).toEqual([
      ['KL3-RD-01', 'add'],
      ['KL1-RD-04', 'change'],
    ]);
    expect(seen.rows[1]?.changes.join()).toContain('to "Kiln 1 roller section 4, slow"');
    expect(await page('')).toEqual(before);
    const other = await engineer.post<Problem>('plant-list', list(`${text} `, seen.hash));
    expect([other.status, other.body.type]).toEqual([409, 'urn:drive-keep:file-changed']);
    const kept = await engineer.post<PlantListPreview>('plant-list', list(text, seen.hash));
    expect([kept.status, (await page('')).total]).toEqual([201, before.total + 1]);
    expect((await detail('KL3-RD-01')).unit).toMatchObject({ serial: 6497001, line: { address: 90 } });
    expect((await detail('KL1-RD-04')).duty).toBe('Kiln 1 roller section 4, slow');
  });

  it('leaves what it says nothing of as it is, and shows what an empty cell takes away', async () => {
    const before = await detail('KL1-RD-02');
    const few = 'tag;duty;area;machine;model;rating;serial;firmware';
    const row = `KL1-RD-02;Roller section three;Kiln 1;Roller sections;HN64;HN64-15;${before.unit.serial};2.07`;
    const text = `${few}\r\n${row}\r\n`;
    const seen = await preview(text);
    expect(seen.rows[0]?.changes).toEqual(['duty from "Kiln 1 roller section 2" to "Roller section three"']);
    await engineer.post('plant-list', list(text, seen.hash));
    expect(await detail('KL1-RD-02')).toMatchObject({
      ...{ duty: 'Roller section three', criticality: 'high', motor: before.motor, unit: before.unit },
    });
    const without = await preview(`${few};line;address\r\n${row};;\r\n`);
    expect(without.rows[0]?.changes).toEqual([
      'line from "gateway-1" to nothing',
      'address on the line from "2" to nothing',
    ]);
  });

  it('says of every bad row what is wrong, and is taken in as a whole or not at all', async () => {
    const row = (change: object) => {
      const cells = {
        ...{
          tag: 'X-1',
          duty: 'd',
          area: 'a',
          machine: 'm',
          model: 'HN64',
          rating: 'HN64-15',
          region: '50-hz',
        },
        ...{ serial: '6490001', firmware: '2.05', line: '', address: '' },
        ...change,
      };
      return `${Object.values(cells).join(';')}\r\n`;
    };
    const text =
      HEAD +
      row({}) +
      row({ tag: 'X-1', serial: '6490002' }) +
      row({ tag: 'X 2', serial: '6490003' }) +
      row({ tag: 'X-3', serial: '1,2E+07' }) +
      row({ tag: 'X-4', model: 'HN99' }) +
      row({ tag: 'X-5', rating: 'HN64-1' }) +
      row({ tag: 'X-6', serial: '6401137' }) +
      row({ tag: 'X-7', serial: '6490007', line: 'gateway-1', address: '1' }) +
      row({ tag: 'X-8', serial: '6490001' }) +
      row({ tag: 'X-9', duty: '=1+1' }) +
      row({ tag: 'X-10', region: '', serial: '6490010' }) +
      row({ tag: 'KL1-RD-01', serial: '6490009', line: 'gateway-1', address: '1' });
    const seen = await preview(text);
    const told = seen.rows.map(({ line, findings }) => [line, findings.map((each) => each.text).join(' ')]);
    expect(told).toEqual([
      [2, ''],
      [3, expect.stringMatching(/X-1 is in line 2 already/)],
      [4, expect.stringMatching(/"X 2" is no tag/)],
      [5, expect.stringMatching(/no serial number. Write digits only/)],
      [6, expect.stringMatching(/No model is called "HN99".*Halvern HN64/)],
      [7, expect.stringMatching(/no rating HN64-1 /)],
      [8, expect.stringMatching(/6401137 is at KL1-RD-01/)],
      [9, expect.stringMatching(/Address 1 of gateway-1 belongs to KL1-RD-01/)],
      [10, expect.stringMatching(/6490001 is at X-1/)],
      [11, expect.stringMatching(/holds a formula/)],
      [12, expect.stringMatching(/column region is empty. A HN64 is for 50-hz.* or 60-hz/)],
      [13, expect.stringMatching(/record a swap instead/)],
    ]);
    expect(seen.acceptable).toBe(false);
    const kept = await engineer.post<Problem>('plant-list', list(text, seen.hash));
    expect([kept.status, kept.body.findings?.length]).toEqual([422, 11]);
    expect((await technician.get('positions/X-1')).status).toBe(404);
  });

  it('takes a tag for the same whatever its case, and says which columns it does not read', async () => {
    const few = 'tag;duty;area;machine;model;rating;serial;firmware;colour';
    const { unit, area, machine, duty } = await detail('KL1-RD-04');
    const cells = [
      'kl1-rd-04',
      duty,
      area,
      machine,
      'HN64',
      unit.rating,
      String(unit.serial),
      unit.firmware,
      'red',
    ];
    const seen = await preview(`${few}\r\n${cells.join(';')}\r\n`);
    expect(seen.rows.map(({ does, changes }) => [does, changes])).toEqual([['nothing', []]]);
    expect(seen.notes.map(({ text }) => text)).toEqual(['Not used: "colour".']);
    const taken = await engineer.post<Problem>('positions', {
      ...{
        area,
        machine,
        tag: 'kl1-RD-04',
        duty,
        criticality: 'low',
        motor: '',
        dictionary: unit.dictionary,
      },
      ...{ rating: unit.rating, region: unit.region, serial: 6_499_999, firmware: '2.05' },
    });
    expect([taken.status, taken.body.detail]).toEqual([422, expect.stringMatching(/KL1-RD-04 is taken/)]);
  });

  it.each([
    ['without its columns', 'tag;duty\r\nA-1;x\r\n', /no column area, machine, model/],
    ['that is empty', ' ', /table is empty/],
    ['with two headings for the same', `drives;${HEAD}x;`, /duty and drives|drives and duty/],
    ['of nothing but headings', HEAD, /has 0 rows/],
    ['with an open quotation mark', `${HEAD}"KL3;x\r\n`, /quotation mark is opened/],
  ])('%s is refused in words', async (_, text, words) => {
    expect((await preview(text)).detail).toMatch(words);
  });
});

it('a job that was started before a retirement ends in its own outcome', async () => {
  const { body } = await technician.post<StartedJob>('backups', { positions: ['SP-OB-01'], reason: 'Test' });
  await engineer.post('register/retire', { positions: ['SP-OB-01'], reason: 'Belt taken out' });
  const ended = await plant.jobEnd(technician, body.job.id);
  expect(ended.items[0]?.outcome).toBe('kept');
});

it('a machine is retired with all its positions, and an area that is not there is said so', async () => {
  const fans = async () =>
    (await page('area=Drying')).positions.filter(({ machine }) => machine === 'Circulation fans');
  const before = (await fans()).map(({ tag }) => tag);
  expect(before.length).toBeGreaterThan(1);
  const { status, body } = await engineer.post<{ retired: string[] }>('register/retire-place', {
    area: 'Drying',
    machine: 'Circulation fans',
    reason: 'Dryer taken down',
  });
  expect([status, body.retired]).toEqual([200, before]);
  expect(await fans()).toEqual([]);
  expect(tagsOf(await page('find=Dryer+chain')).length).toBeGreaterThan(0);
  const gone = await engineer.post<Problem>('register/retire-place', { area: 'Nowhere', reason: 'x' });
  expect([gone.status, gone.body.detail]).toEqual([404, expect.stringContaining('The area Nowhere')]);
  const refused = await technician.post<Problem>('register/retire-place', { area: 'Drying', reason: 'x' });
  expect(refused.status).toBe(403);
});
