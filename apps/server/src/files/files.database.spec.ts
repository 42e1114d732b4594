import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  BackupHow,
  DryRunView,
  ComparisonView,
  HistoryView,
  ImportedBackup,
  ImportedFile,
  ImportPreview,
  Problem,
  WritePlanView,
} from '@drive-keep/api';
import { Ajv2020 } from 'ajv/dist/2020.js';
import ExcelJS from 'exceljs';
import { writeSetJson } from '@drive-keep/core/formats';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';
import { spreadsheetBomb, zipOf } from '../testing/zip-archive.ts';

const TAG = 'KL1-RD-07';
const SCHEMA = join(import.meta.dirname, '../../../../docs/formats/parameter-set.schema.json');

let plant: RunningPlant;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
});
afterAll(() => plant.stop());

const history = async () => (await technician.get<HistoryView>(`positions/${TAG}/history`)).body.backups;

async function exported(format: 'json' | 'csv' | 'dcf', tag = TAG): Promise<string> {
  const { backups } = (await technician.get<HistoryView>(`positions/${tag}/history`)).body;
  const { body } = await technician.get<unknown>(`backups/${backups.at(-1)?.id ?? ''}/file?format=${format}`);
  return typeof body === 'string' ? body : JSON.stringify(body);
}

function upload(content: string | Uint8Array<ArrayBuffer>, hash?: string, name = 'set.csv'): FormData {
  const form = new FormData();
  if (hash) form.set('hash', hash);
  form.set('file', new Blob([content]), name);
  return form;
}

/** A compound file (MS-CFB) with one name in it, as far as anybody looks. */
function compound(name: string): Uint8Array<ArrayBuffer> {
  const head = Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1]);
  return new Uint8Array(Buffer.concat([head, Buffer.alloc(504), Buffer.from(name, 'utf16le')]));
}

const preview = (content: string | Uint8Array<ArrayBuffer>, tag = TAG) =>
  technician.post<ImportPreview & Problem>(`positions/${tag}/imports/preview`, upload(content));

describe('a set that leaves and comes back', () => {
  it.each(['json', 'csv'] as const)(
    'as %s has the same hash and is recognised as the same',
    async (format) => {
      const newest = (await history()).at(-1);
      const text = await exported(format);
      const seen = await preview(text);
      expect(seen.body).toMatchObject({ kind: format, hash: newest?.hash, acceptable: true, findings: [] });
      expect(seen.body.sameAs).not.toBeNull();
      const kept = await technician.post<ImportedBackup>(
        `positions/${TAG}/imports`,
        upload(text, seen.body.hash),
      );
      expect([kept.status, kept.body.hash]).toEqual([201, newest?.hash]);
      const last = (await history()).at(-1);
      expect([last?.how, last?.hash, last?.reason]).toEqual([
        'imported',
        newest?.hash,
        'Imported from set.csv',
      ]);
    },
  );

  it('keeps what could not be read as unreadable on its way', async () => {
    for (const format of ['json', 'csv'] as const) {
      const seen = await preview(await exported(format, 'KL1-RD-09'), 'KL1-RD-09');
      expect([seen.body.acceptable, seen.body.sameAs === null]).toEqual([true, false]);
    }
  });

  it('as JSON holds what the published schema says', async () => {
    const ajv = new Ajv2020({ strict: true });
    const validate = ajv.compile(JSON.parse(readFileSync(SCHEMA, 'utf8')) as object);
    for (const tag of [TAG, 'KL1-RD-09']) {
      validate(JSON.parse(await exported('json', tag)));
      expect(validate.errors).toBeNull();
    }
    expect(validate({ format: 'drive-keep/parameter-set', version: 1, parameters: [] })).toBe(false);
    // In whatever way it was taken, and whatever could not be read.
    const model = await plant.app.get(Dictionaries).get('halvern-hn64@1');
    const reasons = ['refused', 'failed', 'busy', 'not-read-off'] as const;
    const readings = new Map(
      model.parameters.map(({ code }, at) => [code, { unreadable: reasons[at % 4] ?? 'busy' }] as const),
    );
    const kinds: readonly BackupHow[] = ['read', 'read-off', 'imported', 'before-write', 'after-write'];
    for (const how of kinds) {
      validate(JSON.parse(writeSetJson(model, { dictionary: model.id, readings }, { how, node: 7 })));
      expect([how, validate.errors]).toEqual([how, null]);
    }
  });

  it('is offered as a download with a name that says what it is', async () => {
    const backup = (await history()).at(-1);
    const response = await fetch(`${plant.base}/api/backups/${backup?.id ?? ''}/file?format=csv`);
    expect(response.status).toBe(401);
    expect((await technician.get(`backups/${backup?.id ?? ''}/file?format=exe`)).status).toBe(400);
  });
});

describe('a set in the files of other programs', () => {
  async function file(format: 'xlsx' | 'dcf', tag: string): Promise<Uint8Array<ArrayBuffer>> {
    const { backups } = (await technician.get<HistoryView>(`positions/${tag}/history`)).body;
    const answer = await technician.raw(`backups/${backups.at(-1)?.id ?? ''}/file?format=${format}`);
    return new Uint8Array(await answer.arrayBuffer());
  }

  it.each([
    ['xlsx', 'KL1-RD-07'],
    ['xlsx', 'KL1-RD-09'],
    ['xlsx', 'BP-AG-01'],
    ['xlsx', 'SP-ST-01'],
    ['dcf', 'KL1-RD-09'],
    ['dcf', 'GL-PU-01'],
    ['dcf', 'SP-ST-01'],
  ] as const)('as %s comes back to %s as the same content', async (format, tag) => {
    const seen = await preview(await file(format, tag), tag);
    expect(seen.body).toMatchObject({ kind: format, acceptable: true, findings: [] });
    expect(seen.body.sameAs).not.toBeNull();
  });

  it('is read in UTF-16, as spreadsheet programs save text', async () => {
    const bytes = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(await exported('csv'), 'utf16le')]);
    const seen = await preview(new Uint8Array(bytes));
    expect([seen.status, seen.body.acceptable, seen.body.sameAs === null]).toEqual([200, true, false]);
  });

  it('of another model is recognised by its codes', async () => {
    const { body } = await preview('code,value\nFL01,20.0\nFL02,20.0\nFP08,50.0\n');
    expect([body.acceptable, body.likelyModels]).toEqual([false, ['Toreka F3']]);
  });
});

describe('a file is looked at before anything is kept', () => {
  const cases: [string, () => string | Uint8Array<ArrayBuffer>, RegExp][] = [
    ['unknown codes', () => 'code,value\n99X,1', /99X is not a code of HN64/],
    [
      'a decimal comma',
      () => `code;value\n${plant.code('ramp.up')};12,5`,
      /comma\. Write decimals with a point/,
    ],
    ['a formula', () => `code,value\n${plant.code('ramp.up')},=2+3`, /holds a formula/],
    ['another model', () => `dictionary,code,value\nother@1,${plant.code('ramp.up')},1`, /set of other@1/],
    ['broken JSON', () => '{"format": "drive-keep/parameter-set",', /cannot be read as JSON/],
    ['an empty file', () => ' ', /table is empty/],
    [
      'a second column of the same heading',
      () => `code,value,Value\n${plant.code('ramp.up')},1.00,2.00`,
      /"value" is there twice/,
    ],
    [
      'a cell under no heading',
      () => `code,value\n${plant.code('ramp.up')},1.00,2.00`,
      /"2.00" stands under no heading/,
    ],
    [
      'a text that is not that of its value',
      () => `code,raw,text\n${plant.code('ramp.up')},500,7.00 s`,
      /the text "7.00 s" and the value say different things/,
    ],
    [
      'an open quotation mark',
      () => `code,value\n${plant.code('ramp.up')},1\n"x,2\ny,3`,
      /quotation mark is opened on this line/,
    ],
  ];

  it.each(cases)('and %s is named by line', async (_, content, words) => {
    const before = (await history()).length;
    const { status, body } = await preview(content());
    expect([status, body.acceptable]).toEqual([200, false]);
    expect(body.findings.map((finding) => (finding as { text: string }).text).join(' ')).toMatch(words);
    const kept = await technician.post<Problem>(`positions/${TAG}/imports`, upload(content(), body.hash));
    expect([kept.status, kept.body.detail]).toEqual([422, expect.stringMatching(/Nothing was kept/)]);
    expect(await history()).toHaveLength(before);
  });

  it.each<[string, Uint8Array<ArrayBuffer>, number, RegExp]>([
    ['UTF-16 without its mark', new Uint8Array([0x63, 0, 0x6f, 0]), 422, /CSV UTF-8/],
    [
      'another encoding',
      new Uint8Array([0x63, 0x6f, 0x64, 0x65, 0x2c, 0xe4, 0xf6]),
      422,
      /not text in UTF-8/,
    ],
    ['a program', new Uint8Array([0x4d, 0x5a, 0, 0, 1, 2, 3]), 422, /no text and no spreadsheet/],
    ['an old spreadsheet', compound('Workbook'), 422, /old spreadsheet \(XLS\)/],
    ['a spreadsheet with a password', compound('EncryptedPackage'), 422, /encrypted with a password/],
    ['a PDF', new Uint8Array(Buffer.from('%PDF-1.7 …')), 422, /is a PDF/],
    ['nothing at all', new Uint8Array(), 422, /file is empty/],
    [
      'a damaged spreadsheet',
      zipOf([{ name: 'x', content: Buffer.from('y') }]),
      422,
      /ZIP archive and no spreadsheet/,
    ],
    ['a spreadsheet that unfolds to 400 MB', spreadsheetBomb(400), 422, /too large to be a list/],
    ['50 MB', new Uint8Array(50_000_000), 413, /too large/],
  ])('and %s is refused', async (_, content, status, words) => {
    const answer = await preview(content);
    expect([answer.status, answer.type]).toEqual([status, expect.stringMatching(/problem\+json/)]);
    expect(answer.body.detail).toMatch(words);
  });

  it('and one that was exchanged in between is not kept', async () => {
    const seen = await preview(`code,value\n${plant.code('ramp.up')},5.00`);
    const other = upload(`code,value\n${plant.code('ramp.up')},6.00`, seen.body.hash);
    const kept = await technician.post<Problem>(`positions/${TAG}/imports`, other);
    expect([kept.status, kept.body.type]).toEqual([409, 'urn:drive-keep:file-changed']);
  });

  it('and no file at all is said so', async () => {
    const nothing = await technician.post<Problem>(`positions/${TAG}/imports/preview`, new FormData());
    expect([nothing.status, nothing.body.detail]).toEqual([400, expect.stringMatching(/No file was sent/)]);
  });
});

describe('an imported set', () => {
  it('of some values is a part: it is compared and written, and never a backup', async () => {
    const before = await history();
    const text = `code,value\n${plant.code('ramp.up')},5.00`;
    const seen = await preview(text);
    expect([seen.body.partial, seen.body.acceptable]).toEqual([true, true]);
    expect(
      seen.body.against.map(({ reference, count, first }) => [reference, count, first[0]?.change]),
    ).toEqual([
      ['newest', 1, '−15.00 s (×0.25)'],
      ['baseline', 1, '−3.00 s (×0.63)'],
    ]);
    const kept = await technician.post<ImportedFile>(
      `positions/${TAG}/imports`,
      upload(text, seen.body.hash),
    );
    expect([kept.status, kept.body.backupId]).toEqual([201, null]);
    expect(await history()).toEqual(before);
    const part = `part:${kept.body.partId ?? ''}`;
    const path = `positions/${TAG}/comparison?a=baseline&b=${part}`;
    const { rows } = (await technician.get<ComparisonView>(path)).body;
    expect(rows.map(({ code, change }) => [code, change])).toEqual([
      [plant.code('ramp.up'), '−3.00 s (×0.63)'],
    ]);
    // A drive acts by it with all else as it was last seen.
    const acting = (await technician.get<DryRunView>(`positions/${TAG}/dry-run?set=${part}`)).body;
    const newest = (await technician.get<DryRunView>(`positions/${TAG}/dry-run?set=newest`)).body;
    expect(acting.title).toMatch(/with One value from set.csv$/);
    const differing = acting.readings.filter(
      ([code, reading], at) => newest.readings[at]?.[1] !== reading && code,
    );
    expect(differing.map(([code]) => code)).toEqual([plant.code('ramp.up')]);
    const plan = await technician.post<WritePlanView>(`positions/${TAG}/write-plans`, { target: part });
    expect(plan.body.steps.map(({ code }) => code)).toEqual([plant.code('ramp.up')]);
    expect(
      (await technician.get<HistoryView>(`positions/${TAG}/history`)).body.parts.map(
        ({ reference }) => reference,
      ),
    ).toEqual([part]);
  });
});

describe('a file in another encoding', () => {
  const latin = new Uint8Array(
    Buffer.from(`code;value;name\n01R;5.00;Beschleunigung für Lüfter\n`, 'latin1'),
  );

  it('is offered as Latin-1 with what it says then, and read so when somebody says it', async () => {
    const asked = await preview(latin);
    expect([asked.status, asked.body.type]).toEqual([422, 'urn:drive-keep:encoding']);
    expect(asked.body.detail).toMatch(/words such as: für, Lüfter/);
    const path = `positions/${TAG}/imports/preview?encoding=latin-1`;
    const read = await technician.post<ImportPreview>(path, upload(latin));
    expect([read.status, read.body.parameters]).toEqual([200, 1]);
  });

  it('keeps the letters of its name', async () => {
    const text = `code,value\n${plant.code('ramp.up')},5.00`;
    const path = `positions/${TAG}/imports/preview`;
    const { body } = await technician.post<ImportPreview>(path, upload(text, undefined, 'Lüfter – 3.csv'));
    expect(body.fileName).toBe('Lüfter – 3.csv');
  });
});

describe('a file of another version of the model', () => {
  it('is offered to be carried over, and says what has no place', async () => {
    const text = `dictionary,code,value\nhalvern-hn64@2,${plant.code('ramp.up')},5.00`;
    const asked = await preview(text);
    expect([asked.body.acceptable, asked.body.carriesFrom]).toEqual([false, 'halvern-hn64@2']);
    const path = `positions/${TAG}/imports`;
    const seen = await technician.post<ImportPreview>(`${path}/preview?carry=yes`, upload(text));
    expect([seen.body.acceptable, seen.body.parameters, seen.body.dictionary]).toEqual([
      true,
      1,
      'halvern-hn64@1',
    ]);
    expect(seen.body.findings.map((each) => (each as { text: string }).text).join(' ')).toMatch(
      /is of halvern-hn64@2; its values were carried over to halvern-hn64@1/,
    );
    const refused = await technician.post<Problem>(path, upload(text, seen.body.hash));
    expect(refused.status).toBe(422);
    const kept = await technician.post<ImportedFile>(`${path}?carry=yes`, upload(text, seen.body.hash));
    expect([kept.status, kept.body.hash]).toEqual([201, seen.body.hash]);
  });
});

describe('a spreadsheet with more in it than is seen', () => {
  it('is read with what it hides, and says so', async () => {
    const workbook = new ExcelJS.Workbook();
    const sheet = workbook.addWorksheet('Values');
    sheet.addRow(['code', 'value', 'secret']);
    sheet.addRow([plant.code('ramp.up'), 5, 'x']);
    sheet.getRow(2).hidden = true;
    sheet.getColumn(3).hidden = true;
    workbook.addWorksheet('More').addRow(['code']);
    const { body } = await preview(new Uint8Array(await workbook.xlsx.writeBuffer()));
    expect(body.parameters).toBe(1);
    expect(body.findings.map((each) => (each as { text: string }).text).join(' ')).toMatch(
      /Not read: "More".*column "secret" is hidden.*row is hidden.*Not used: "secret"/,
    );
  });
});

describe('papers', () => {
  const paper = (path: string) => technician.get<string & Problem>(`positions/${path}`);

  it('tell what was found and decided, and that they were made', async () => {
    const { status, type, body } = await paper('GL-PU-01/comparison-record?format=csv');
    expect([status, type]).toEqual([200, expect.stringContaining('text/csv')]);
    expect(body.split('\r\n').slice(1, 3)).toEqual([
      expect.stringMatching(
        /^Ramps and limits,RA1,Acceleration time,6\.0 s,2\.5 s,.*Takes another time; what its contacts bring about stays the same\..*not decided; since .*Nightly round/,
      ),
      expect.stringContaining('RB2'),
    ]);
    const { body: log } = await technician.get<{ entries: { text: string }[] }>('logbook?tag=GL-PU-01');
    expect(log.entries[0]?.text).toBe('Made a paper: Comparison record as CSV.');
  });

  it('print a signed baseline with who signed it, and say what they cannot print', async () => {
    const { body } = await paper('KL1-RD-07/settings-record?set=baseline:2&format=csv');
    const lines = body.split('\r\n').filter((line) => line !== '');
    const wiring = lines.filter((line) => line.includes('Field wiring'));
    const checks = lines.filter((line) => /^"?Checks: (open|accepted)/.test(line));
    expect(lines.length - wiring.length - checks.length).toBe(1 + 195);
    // Of the baseline: what runs on after a dip, and was accepted so.
    expect(checks).toHaveLength(2);
    expect(checks[0]).toContain('Rollers must not stand');
    expect(wiring.some((line) => line.includes('S1:13'))).toBe(true);
    expect((await paper('KL1-RD-07/settings-record?set=baseline:9&format=csv')).status).toBe(404);
    expect((await paper('KL1-RD-07/settings-record?format=doc')).status).toBe(400);
    const pdf = await technician.raw('positions/KL1-RD-07/settings-record?set=baseline&format=pdf');
    expect([pdf.headers.get('content-type'), pdf.headers.get('content-disposition')]).toEqual([
      'application/pdf',
      'attachment; filename=KL1-RD-07_settings.pdf',
    ]);
  });
});

describe('the file of one axis on another', () => {
  it('is refused with the reason, before and when it is kept', async () => {
    const slew = await exported('csv', 'SP-ST-02');
    const { body } = await preview(slew, 'SP-ST-01');
    expect(body.acceptable).toBe(false);
    expect(body.findings[0]).toEqual({
      line: null,
      column: '',
      attention: 'stop',
      text: expect.stringMatching(
        /^This is a set of SP-ST-02, not of SP-ST-01: 2030:04, 2060:01 are that axis's\.$/,
      ),
    });
    const kept = await technician.post<Problem>('positions/SP-ST-01/imports', upload(slew, body.hash));
    expect([kept.status, kept.body.type]).toEqual([422, 'urn:drive-keep:other-axis']);
    expect((await preview(slew, 'SP-ST-02')).body.acceptable).toBe(true);
  });

  it.each(['json', 'dcf'] as const)(
    'is told by the serial number in a %s, even where its marks were made to fit',
    async (format) => {
      const slew = await exported(format, 'SP-ST-02');
      const lift = await exported(format, 'SP-ST-01');
      const serialOf = (text: string) => /serial(?:number)?"?[:=]\s*"?(\d+)/i.exec(text)?.[1] ?? 'none';
      const forged = lift.replaceAll(serialOf(lift), serialOf(slew));
      const { body } = await preview(forged, 'SP-ST-01');
      expect([body.acceptable, body.findings[0]?.text]).toEqual([
        false,
        expect.stringMatching(
          /^This is a set of SP-ST-02, not of SP-ST-01: it was read from serial number \d+/,
        ),
      ]);
      expect((await preview(lift, 'SP-ST-01')).body.findings).toEqual([]);
    },
  );

  it('of no axis is only told where it was read from', async () => {
    const peer = await exported('json', 'KL1-RD-04');
    const { acceptable, findings } = (await preview(peer, 'KL1-RD-02')).body;
    expect([acceptable, findings[0]]).toEqual([
      true,
      {
        line: null,
        column: '',
        attention: 'look',
        text: expect.stringMatching(
          /^The file was read from serial number \d+; serial number \d+ sits here\.$/,
        ),
      },
    ]);
  });

  it('may be shared between drives that are no axes', async () => {
    const peer = await exported('csv', 'KL1-RD-04');
    expect((await preview(peer, 'KL1-RD-02')).body.acceptable).toBe(true);
  });
});
