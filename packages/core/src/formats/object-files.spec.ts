// EDS and DCF as tools for such networks write them: what CiA 306 allows, what they do besides, and what is left out.

import { describe, expect, it } from '@jest/globals';
import { defaultSet, hashOf } from '../sets/index.ts';
import { modelNamed, outfitOf } from '../testing/index.ts';
import { factsOf, type Dictionary } from '../dictionary/index.ts';
import { makeOwnModel, readEds, readObjects, readSet, writeSetDcf } from './index.ts';

const HEAD =
  '[DeviceInfo]\nVendorName=Millbrook\nProductName=X5\n[ManufacturerObjects]\nSupportedObjects=0\n';

const object = (name: string, lines: Readonly<Record<string, string>>): string =>
  [
    `[${name}]`,
    ...Object.entries({ ParameterName: name, ...lines }).map(([key, value]) => `${key}=${value}`),
    '',
  ].join('\n');
const NUMBER = { ObjectType: '0x7', DataType: '0x0003', AccessType: 'rw' };

const eds = (...objects: readonly string[]) => {
  const read = readEds(HEAD + objects.join(''));
  return {
    codes: read.parameters.map(({ cells }) => cells.code),
    told: read.findings.map(({ attention, code }) => `${attention} ${code}`),
    cells: read.parameters[0]?.cells,
  };
};

describe('an EDS of another tool', () => {
  it('may write subindexes with zeros in front, and both are one where they are there twice', () => {
    const record = object('2000', { ObjectType: '0x9', SubNumber: '2' });
    const count = object('2000sub0', { ...NUMBER, DataType: '0x0005', AccessType: 'ro' });
    const { codes, told } = eds(record, count, object('2000sub01', NUMBER), object('2000sub0A', NUMBER));
    expect(codes).toEqual(['2000:01', '2000:0A']);
    expect(told).toEqual(['look objects-left-out']);
    expect(eds(record, object('2000sub1', NUMBER), object('2000sub01', NUMBER)).told).toContain(
      'stop section-twice',
    );
  });

  it('is refused for a key that is there twice with two values, and not for one that says the same', () => {
    const twice = (second: string) =>
      `[2000]\nParameterName=a\nObjectType=0x7\nDataType=0x0003\nAccessType=rw\nDefaultValue=1\ndefaultvalue=${second}\n`;
    expect(eds(twice('2')).told).toContain('stop key-twice');
    expect(eds(twice('1')).told).toEqual([]);
  });

  it('is refused for a value beyond its type, and takes the bit pattern of a negative one', () => {
    const withDefault = (DefaultValue: string) => eds(object('2000', { ...NUMBER, DefaultValue }));
    expect(withDefault('0xFFFF').cells?.default).toBe('-1');
    expect(withDefault('65535').cells?.default).toBe('-1');
    expect(withDefault('65536').told).toEqual(['stop object-beyond-type']);
    expect(withDefault('-32769').told).toEqual(['stop object-beyond-type']);
  });

  it('may have comments behind numbers, and an access that nobody knows is asked for', () => {
    expect(eds(object('2000', { ...NUMBER, DefaultValue: '0x10 ; as delivered' })).cells?.default).toBe('16');
    expect(eds(object('2000', { ...NUMBER, AccessType: 'sometimes' })).told).toContain('stop access-asked');
  });

  it('says of each object that it leaves out which it is, and why', () => {
    const { told } = eds(
      object('2000', NUMBER),
      object('2001', { ...NUMBER, DataType: '0x0009' }),
      object('2002', { ...NUMBER, AccessType: 'wo' }),
    );
    expect(told).toEqual(['look objects-left-out', 'look objects-left-out']);
  });
});

/** A model of one's own from an EDS with a signed, an unsigned and a text object. */
const own = ((): Dictionary => {
  const objects = [
    object('2000', { ...NUMBER, DefaultValue: '0' }),
    object('2001', { ...NUMBER, DataType: '0x0006', DefaultValue: '0' }),
    object('2002', { ...NUMBER, DataType: '0x0009' }),
  ];
  const { parameters } = readEds(HEAD + objects.join(''));
  const facts = {
    maker: 'Millbrook',
    name: 'X5',
    about: 'x',
    firmwareFrom: '1.00',
    firmwareTo: '1.99',
    version: 1,
  };
  const { dictionary } = makeOwnModel(facts, parameters, new Map());
  if (!dictionary) throw new Error('no dictionary');
  return dictionary;
})();

describe('a DCF of another tool', () => {
  const dcf = (head: string, ...objects: readonly string[]) => {
    const { set, findings, serial } = readSet('dcf', head + objects.join(''), own, {});
    const told = findings.map(({ attention, code }) => `${attention} ${code}`);
    return { readings: Object.fromEntries(set.readings), told, serial };
  };

  it('without types has those of the dictionary', () => {
    const bare = { ObjectType: '0x7' };
    const { readings, told } = dcf(
      HEAD,
      object('2000', { ...bare, ParameterValue: '0xFFFF' }),
      object('2001', { ...bare, ParameterValue: '0xFFFF' }),
    );
    expect([readings, told]).toEqual([{ '2000:00': -1, '2001:00': 65_535 }, []]);
  });

  it('may hold what the model left out, and is refused for what no model has', () => {
    const text = object('2002', { ...NUMBER, DataType: '0x0009', ParameterValue: 'hello' });
    const network = object('1017', { ...NUMBER, DataType: '0x0006', ParameterValue: '500' });
    const set = [
      object('2000', { ...NUMBER, ParameterValue: '5' }),
      object('2001', { ...NUMBER, ParameterValue: '6' }),
    ];
    expect(dcf(HEAD, ...set, text, network).told).toEqual(['look objects-left-out']);
    expect(dcf(HEAD, ...set, object('3000', { ...NUMBER, ParameterValue: '5' })).told).toContain(
      'stop not-of-the-model',
    );
  });

  it('of another maker and product is refused; of another product of the same maker it is told', () => {
    const value =
      object('2000', { ...NUMBER, ParameterValue: '5' }) + object('2001', { ...NUMBER, ParameterValue: '6' });
    const head = (vendor: string, product: string) =>
      HEAD.replace('VendorName=Millbrook', `VendorName=${vendor}`).replace(
        'ProductName=X5',
        `ProductName=${product}`,
      );
    expect(dcf(head('Millbrook Drives Ltd.', 'X5-22'), value).told).toEqual([]);
    expect(dcf(head('Millbrook', 'Y9'), value).told).toEqual(['look product-differs']);
    expect(dcf(head('Somebody', 'Y9'), value).told).toEqual(['stop product-differs']);
  });

  it('is held against the numbers of the EDS: another vendor or product stops it, another revision is told', () => {
    const numbers = (vendor: number, product: number, revision: number) =>
      HEAD.replace(
        'ProductName=X5',
        `ProductName=X5\nVendorNumber=${vendor}\nProductNumber=${product}\nRevisionNumber=${revision}`,
      );
    const read = readEds(numbers(0x1a, 7, 0x10002) + object('2000', NUMBER));
    expect(read.device).toEqual({ vendor: 0x1a, product: 7, revision: 0x10002 });
    const facts = {
      maker: 'Millbrook',
      name: 'X5',
      about: 'x',
      firmwareFrom: '1',
      firmwareTo: '2',
      version: 1,
    };
    const { dictionary } = makeOwnModel({ ...facts, device: read.device }, read.parameters, new Map());
    if (!dictionary) throw new Error('no dictionary');
    const told = (...of: [number, number, number]) =>
      readSet(
        'dcf',
        numbers(...of) + object('2000', { ...NUMBER, ParameterValue: '5' }),
        dictionary,
        {},
      ).findings.map(({ attention, code }) => `${attention} ${code}`);
    expect(told(0x1a, 7, 0x10002)).toEqual([]);
    expect(told(0x1a, 7, 0x10003)).toEqual(['look device-differs']);
    expect(told(0x1a, 8, 0x10002)).toEqual(['stop device-differs']);
    expect(told(0, 0, 0)).toEqual([]);
  });

  it.each(['DeviceComissioning', 'DeviceCommissioning'])(
    'has node and serial number under [%s]',
    (section) => {
      const told = `[${section}]\nNodeID=5\nLSS_SerialNumber=4711\n`;
      const { readings, serial } = dcf(
        HEAD + told,
        object('2001', { ...NUMBER, DataType: '0x0006', ParameterValue: '$NODEID+0x200' }),
      );
      expect([readings, serial]).toEqual([{ '2001:00': 0x205 }, 4711]);
    },
  );
});

describe('a DCF that leaves', () => {
  const model = modelNamed('halvern-hn64@1');
  const outfit = outfitOf(model);
  const facts = factsOf(model, outfit) ?? {};
  const set = defaultSet(model, outfit);

  it('has every object that a device needs, counts, limits and defaults, and comes back as the same set', () => {
    if (!set) throw new Error('no defaults');
    const origin = { position: 'KL1-RD-07', serial: '6401107', node: 7 };
    const text = writeSetDcf(model, set, origin, facts);
    const objects = readObjects(text);
    expect(objects.findings).toEqual([]);
    expect([objects.nodeId, objects.serial]).toEqual(['7', '6401107']);
    const addresses = objects.objects.map(({ address }) => address);
    for (const needed of ['1000:00', '1001:00', '1018:00', '1018:04']) expect(addresses).toContain(needed);
    // Each index with subindexes counts them.
    const indexes = new Set(objects.objects.filter(({ sub }) => sub > 0).map(({ index }) => index));
    for (const index of indexes) {
      const subs = objects.objects.filter((each) => each.index === index);
      const [count] = subs;
      expect([count?.isCount, Number(count?.default)]).toEqual([
        true,
        Math.max(...subs.map(({ sub }) => sub)),
      ]);
    }
    const settings = objects.objects.filter(({ index }) => index >= 0x2000);
    const untold = settings.filter(({ isCount, low, high }) => !isCount && (low === '' || high === ''));
    expect(untold.map(({ address }) => address)).toEqual([]);
    const back = readSet('dcf', text, model, facts);
    expect([back.findings, hashOf(back.set)]).toEqual([[], hashOf(set)]);
  });
});
