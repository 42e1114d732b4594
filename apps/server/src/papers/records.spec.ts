import { describe, expect, it } from '@jest/globals';
import type { DecisionView } from '@drive-keep/api';
import { compareSets } from '@drive-keep/core/compare';
import { factsOf, isNoise, type Code } from '@drive-keep/core/dictionary';
import { defaultSet, type ParameterSet } from '@drive-keep/core/sets';
import { loadModels } from '@drive-keep/plant-sim';
import { MODELS_FOLDER } from '../testing/running-plant.ts';
import { comparisonParts } from './comparison-record.ts';
import { writeLabels, writePaper } from './paper-file.ts';
import { paperTime } from './paper-time.ts';
import type { Paper } from './paper.ts';
import { SETTINGS_COLUMNS, settingsParts } from './settings-record.ts';

const models = [...loadModels(MODELS_FOLDER).values()];
const hn64 = models.find(({ id }) => id === 'halvern-hn64@1');
if (!hn64) throw new Error('no halvern-hn64@1');
const outfit = { rating: 'HN64-15', region: '50-hz' };
const facts = factsOf(hn64, outfit) ?? {};
const set = defaultSet(hn64, outfit) as ParameterSet;
const changed = (code: string, reading: number | { unreadable: 'refused' }): ParameterSet => ({
  ...set,
  readings: new Map(set.readings).set(code as Code, reading),
});
const rowsOf = (parts: Paper['parts']) => parts.flatMap(({ rows }) => rows);

describe('a settings record', () => {
  it.each(models.map((model) => [model.id, model] as const))(
    'names every setting of %s once, and none that changes by itself',
    (_, model) => {
      const own = { rating: model.ratings[0]?.id ?? '', region: model.regions[0]?.id ?? '' };
      const defaults = defaultSet(model, own) as ParameterSet;
      const rows = rowsOf(settingsParts(model, factsOf(model, own) ?? {}, defaults));
      const settings = model.parameters.filter((parameter) => !isNoise(parameter));
      expect(rows.map(({ cells }) => cells[0]).sort()).toEqual(settings.map(({ code }) => code).sort());
      expect(rows.filter(({ marked }) => marked)).toEqual([]);
    },
  );

  it('marks what differs from its default, and never prints what could not be read as a value', () => {
    const rows = rowsOf(settingsParts(hn64, facts, changed('01R', 1234)));
    expect(rows.filter(({ marked }) => marked).map(({ cells }) => cells)).toEqual([
      ['01R', 'Acceleration time', '12.34 s', '10.00 s'],
    ]);
    const unread = rowsOf(settingsParts(hn64, facts, changed('01R', { unreadable: 'refused' })));
    expect(unread.find(({ cells }) => cells[0] === '01R')).toEqual({
      cells: ['01R', 'Acceleration time', '? not readable (refused)', '10.00 s'],
      marked: false,
    });
    const empty = rowsOf(settingsParts(hn64, facts, { ...set, readings: new Map() }));
    expect(new Set(empty.map(({ cells }) => cells[2]))).toEqual(new Set(['not there']));
  });
});

describe('a comparison record', () => {
  const { rows } = compareSets(hn64, set, changed('01R', 2000));
  const decision = {
    code: '01R',
    kind: 'tolerate',
    until: '2027-03-31',
    person: 'R. Ashgrove',
    reason: 'tiles slip',
  } as DecisionView;
  const origin = {
    code: '01R',
    since: '2026-07-30T10:00:00Z',
    by: 'T. Pellow',
    reason: 'x',
    atSigning: false,
  };

  it('says what was decided by whom and why, or since when it stands undecided', () => {
    const decided = comparisonParts(hn64, {
      rows,
      decisions: new Map([['01R', decision]]),
      origins: new Map(),
      does: { '01R': 'Takes another time.' },
    });
    expect(rowsOf(decided)).toEqual([
      {
        cells: [
          ...['01R', 'Acceleration time', '10.00 s', '20.00 s', '+10.00 s (×2.0)'],
          'Takes another time.',
          'tolerated until 2027-03-31, R. Ashgrove: tiles slip',
        ],
        marked: false,
      },
    ]);
    const open = comparisonParts(hn64, {
      rows,
      decisions: new Map(),
      origins: new Map([['01R', origin]]),
      does: {},
    });
    expect(rowsOf(open)[0]).toMatchObject({
      marked: true,
      cells: expect.arrayContaining([`not decided; since ${paperTime(new Date(origin.since))}, T. Pellow`]),
    });
  });
});

describe('a paper as a file', () => {
  const paper: Paper = {
    title: 'Settings record',
    about: 'KL1-RD-07, =roller (Ω → ▲)',
    plant: 'Plant',
    facts: [['Set, content', 'sha256:00']],
    columns: SETTINGS_COLUMNS,
    parts: settingsParts(hn64, facts, changed('01R', 1234)),
    nothing: '',
    signatures: [{ what: 'Checked', by: '', at: '' }],
    printed: 'now',
  };
  const pagesOf = (pdf: Uint8Array) =>
    (
      Buffer.from(pdf)
        .toString('latin1')
        .match(/\/Type \/Page\b/g) ?? []
    ).length;

  it('as PDF has its fonts inside and as many pages as it needs', async () => {
    const pdf = (await writePaper(paper, 'pdf')) as Uint8Array;
    const text = Buffer.from(pdf).toString('latin1');
    expect(text.slice(0, 5)).toBe('%PDF-');
    expect(text.trimEnd().endsWith('%%EOF')).toBe(true);
    for (const font of ['Atkinson', 'DejaVuSans'])
      expect(text).toMatch(new RegExp(`/FontName /\\w+\\+${font}`));
    expect(text).toMatch(/\/FontFile[23]?/);
    expect(pagesOf(pdf)).toBeGreaterThan(3);
    const short = (await writePaper({ ...paper, parts: [] }, 'pdf')) as Uint8Array;
    expect(pagesOf(short)).toBe(1);
  }, 60_000);

  it('as labels fills the places that are free, three by eight on a sheet', async () => {
    const labels = Array.from({ length: 30 }, (_, at) => ({
      tag: `KL1-RD-${at}`,
      duty: 'Kiln 1, roller section with a duty that is longer than a label has room for, as happens now and then',
      address: `https://drives.plant.local:8420/positions/KL1-RD-${at}`,
    }));
    const pages = async (skip: number, count: number) => {
      const sheet = { kind: 'labels' as const, plant: 'Fennimoor', labels: labels.slice(0, count), skip };
      const bytes = Buffer.from(await writeLabels(sheet)).toString('latin1');
      return bytes.match(/\/Type \/Page\b/g)?.length;
    };
    expect([await pages(0, 24), await pages(1, 24), await pages(20, 30)]).toEqual([1, 2, 3]);
  }, 60_000);

  it('as CSV has the part before each row, and no cell that a spreadsheet would run', async () => {
    const csv = (await writePaper(
      { ...paper, parts: [{ name: '=x', rows: paper.parts[1]?.rows ?? [] }] },
      'csv',
    )) as string;
    const [head, first] = csv.split('\r\n');
    expect(head).toBe('part,code,parameter,value,default');
    expect(first).toBe("'=x,01R,Acceleration time,12.34 s,10.00 s");
  });
});
