import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { DecisionsView, DraftView, HistoryView, IntegrityReport, Problem } from '@drive-keep/api';
import type { WiringPhotoView, WiringView } from '@drive-keep/api';
import sharp from 'sharp';
import { DataSource } from 'typeorm';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let technician: Caller;
let engineer: Caller;
let viewer: Caller;
beforeAll(async () => {
  plant = await RunningPlant.start();
  [technician, engineer, viewer] = await Promise.all([
    plant.signIn('technician'),
    plant.signIn('engineer'),
    plant.signIn('viewer'),
  ]);
});
afterAll(() => plant.stop());

const TAG = 'KL1-RD-05';
const PHOTOS = `positions/${TAG}/wiring/photos`;

const integrity = async () =>
  (await engineer.post<IntegrityReport>('integrity')).body.findings.map(({ text }) => text);

describe('the wiring that is signed', () => {
  const baselines = async () =>
    (await viewer.get<HistoryView>(`positions/${TAG}/history`)).body.baselines.map(
      ({ revision, wiring }) => `${revision} with ${wiring}`,
    );
  const draft = async () => (await engineer.get<DecisionsView>(`positions/${TAG}/decisions`)).body.draft;
  const change = async (name: string, seen: number) => {
    const { rows } = (await viewer.get<WiringView>(`positions/${TAG}/wiring`)).body;
    const lamp = ['load', name, '', '', '', '24 V; 40 mA', 'lamp'];
    const body = { rows: [...rows, lamp], seen, why: `Lamp ${name} added` };
    expect((await technician.ask('PUT', `positions/${TAG}/wiring`, body)).status).toBe(200);
  };
  const propose = () =>
    technician.post<DraftView & Problem>(`positions/${TAG}/wiring/baseline-draft`, { reason: 'New lamp' });

  it('is the one of its time, and is not proposed twice', async () => {
    expect(await baselines()).toEqual(['1 with 1', '2 with 1', '3 with 1']);
    expect((await propose()).body.detail).toContain('was signed with this wiring');
  });

  it('is proposed when it has changed, and signed as it was looked at', async () => {
    await change('H8', 1);
    const { body } = await propose();
    expect(body).toMatchObject({ of: 'wiring', wiring: 2, revision: 4, codes: [] });
    expect((await propose()).body.detail).toContain('waits for its signature');
    const sign = (wiring?: number) =>
      engineer.post<Problem>(`baseline-drafts/${body.id}/sign`, wiring === undefined ? {} : { wiring });
    // Somebody keeps another wiring between the look and the signature.
    await change('H9', 2);
    for (const seen of [undefined, 2])
      expect((await sign(seen)).body.type).toBe('urn:drive-keep:changed-meanwhile');
    expect((await draft())?.wiring).toBe(3);
    expect((await sign(3)).status).toBe(204);
    expect(await baselines()).toEqual(['1 with 1', '2 with 1', '3 with 1', '4 with 3']);
    expect(await integrity()).toEqual([]);
  });

  it('cannot be exchanged without anybody noticing', async () => {
    const source = plant.app.get(DataSource);
    await source.query('alter table baseline disable trigger kept');
    const first = `revision = 4 and position_id = (select id from position where tag = '${TAG}')`;
    await source.query(
      `update baseline set wiring_revision = 1, wiring_hash = (select hash from wiring_revision w
         where w.position_id = baseline.position_id and w.revision = 1) where ${first}`,
    );
    expect(await integrity()).toContainEqual(
      expect.stringMatching(/^Revision 4 of the baseline of KL1-RD-05 is not what was signed/),
    );
  });
});

describe('a photograph of a wiring', () => {
  const picture = () => sharp({ create: { width: 3000, height: 1000, channels: 3, background: 'navy' } });
  const add = (content: Uint8Array, caption = 'Upper control strip', by = technician) => {
    const form = new FormData();
    form.set('file', new Blob([new Uint8Array(content)]), 'photo.jpg');
    form.set('caption', caption);
    return by.post<readonly WiringPhotoView[] & Problem>(PHOTOS, form);
  };
  const list = async () => (await viewer.get<readonly WiringPhotoView[]>(PHOTOS)).body;

  it('is turned upright, made smaller and freed of what the camera wrote', async () => {
    const exif = { IFD0: { Copyright: 'somebody' }, IFD3: { GPSLatitudeRef: 'N' } };
    const taken = await picture().withExif(exif).withMetadata({ orientation: 6 }).jpeg().toBuffer();
    const { status, body } = await add(taken, '  Upper control strip ');
    const [photo] = body;
    expect([status, photo?.caption, photo?.width, photo?.height]).toEqual([
      201,
      'Upper control strip',
      667,
      2000,
    ]);
    const answer = await viewer.raw(`${PHOTOS}/${photo?.id}`);
    const kept = await sharp(await answer.arrayBuffer()).metadata();
    expect(answer.headers.get('content-type')).toBe('image/jpeg');
    expect([kept.format, kept.width, kept.exif, kept.orientation]).toEqual([
      'jpeg',
      667,
      undefined,
      undefined,
    ]);
  });

  it('is refused where it is no picture, only half of one, or there already', async () => {
    const before = await list();
    const png = await picture().png().toBuffer();
    const noise = await sharp(
      Buffer.alloc(300 * 300 * 3).map((_, at) => (at * 7919) % 251),
      {
        raw: { width: 300, height: 300, channels: 3 },
      },
    )
      .jpeg()
      .toBuffer();
    const svg = Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>');
    const refused = [Buffer.from('no picture'), svg, noise.subarray(0, noise.length / 2), Buffer.alloc(0)];
    for (const content of refused) {
      const { status, body } = await add(content);
      expect([status, body.detail]).toEqual([422, expect.stringContaining('Nothing was kept')]);
    }
    expect((await add(png, ' ')).status).toBe(400);
    expect((await add(png, 'Strip', viewer)).status).toBe(403);
    expect((await add(png)).status).toBe(201);
    expect((await add(png)).body.detail).toContain('has this photograph already');
    expect(await list()).toHaveLength(before.length + 1);
  });

  it('is withdrawn with a reason, once, and stays in the database', async () => {
    const [photo] = await list();
    const withdraw = (by = technician) =>
      by.post<readonly WiringPhotoView[]>(`${PHOTOS}/${photo?.id}/withdraw`, { why: 'Rewired since' });
    expect((await withdraw(viewer)).status).toBe(403);
    expect((await Promise.all([withdraw(), withdraw()])).map(({ status }) => status).sort()).toEqual([
      200, 404,
    ]);
    expect((await list()).map(({ id }) => id)).not.toContain(photo?.id);
    expect((await viewer.raw(`${PHOTOS}/${photo?.id}`)).status).toBe(404);
    const source = plant.app.get(DataSource);
    for (const change of [`caption = 'x'`, 'withdrawn_at = null', `content = 'x'`])
      await expect(source.query(`update wiring_photo set ${change}`)).rejects.toThrow('keeps what it holds');
  });

  it('is not shown where it was damaged, and the check names it', async () => {
    const [photo] = await list();
    const source = plant.app.get(DataSource);
    await source.query('alter table wiring_photo disable trigger withdrawn');
    await source.query(`update wiring_photo set content = content || 'x' where id = $1`, [photo?.id]);
    expect((await viewer.get<Problem>(`${PHOTOS}/${photo?.id}`)).body.type).toBe(
      'urn:drive-keep:photo-damaged',
    );
    expect(await integrity()).toContainEqual(
      expect.stringContaining('A photograph of the wiring of KL1-RD-05 (Upper control strip) is damaged'),
    );
  });
});
