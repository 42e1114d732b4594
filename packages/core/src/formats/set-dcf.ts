// A set as a DCF (CiA 306-1): what every tool for such networks reads. Models that are no network devices get object
// addresses of the manufacturer's area from their registers, so that the same dictionary always gives the same file.

import {
  defaultOf,
  findParameter,
  isNoise,
  limitsOf,
  type Code,
  type DeviceNumbers,
  type Dictionary,
  type Facts,
  type Parameter,
  type Untold,
} from '../dictionary/index.ts';
import { finding, type Finding } from '../findings/index.ts';
import { hashOf, type ParameterSet } from '../sets/index.ts';
import type { Reading } from '../values/index.ts';
import { nothing, type SetFileLines } from './set-csv.ts';
import { BARE_ENTRY, serialIn, type SetFileEntry } from './set-file.ts';
import type { SetOrigin } from './set-json.ts';
import {
  deviceNumbers,
  fitsType,
  INTEGER_TYPES,
  inTypeRange,
  objectAddress,
  parseInteger,
  readObjects,
  type ObjectDictionary,
} from './object-dictionary.ts';

/** Subindexes 1 to 127 of an object are used: 512 objects hold all registers. */
const SUBS = 127;
const FROM_REGISTERS = 0x2000;
/** Above what 65,536 registers need. */
const FROM_PLACES = 0x3000;
const OBJECT_CODE = /^([0-9A-F]{4}):([0-9A-F]{2})$/;
/** Objects of the network itself (CiA 301), which belong to no drive's settings. */
const NETWORK_AREA = [0x1000, 0x1fff] as const;

interface PlacedParameter {
  readonly index: number;
  readonly sub: number;
  readonly parameter: Parameter;
}

const placements = new WeakMap<Dictionary, ReadonlyMap<string, PlacedParameter>>();

/** Every parameter by its object address. */
function placesOf(dictionary: Dictionary): ReadonlyMap<string, PlacedParameter> {
  let known = placements.get(dictionary);
  if (!known) {
    const placed = dictionary.parameters.map((parameter, at) => place(parameter, at));
    known = new Map(placed.map((each) => [objectAddress(each.index, each.sub), each]));
    placements.set(dictionary, known);
  }
  return known;
}

function place(parameter: Parameter, at: number): PlacedParameter {
  const own = OBJECT_CODE.exec(parameter.code);
  if (own) {
    const [index = 0, sub = 0] = own.slice(1).map((hex) => Number.parseInt(hex, 16));
    return { index, sub, parameter };
  }
  const [base, number] = parameter.register
    ? [FROM_REGISTERS, parameter.register.address]
    : [FROM_PLACES, at];
  return { index: base + Math.floor(number / SUBS), sub: (number % SUBS) + 1, parameter };
}

/**
 * A set as DCF (CiA 306-1): raw values as `ParameterValue`, signed as they are. What could not be read, and the hash of the
 * content, stand in the comments, so that the file comes back as the same set.
 */
export function writeSetDcf(
  dictionary: Dictionary,
  set: ParameterSet,
  origin: SetOrigin,
  facts: Facts = {},
): string {
  const placed = [...placesOf(dictionary).values()].sort((a, b) => a.index - b.index || a.sub - b.sub);
  const indexes = [...new Set(placed.map(({ index }) => index))];
  const inArea = (from: number, to: number) => indexes.filter((index) => index >= from && index <= to);
  const sections = [
    ...headSections(dictionary, set, origin),
    listSection('MandatoryObjects', MANDATORY),
    listSection('OptionalObjects', [
      ...inArea(...NETWORK_AREA).filter((index) => !MANDATORY.includes(index)),
      ...inArea(0x6000, 0xffff),
    ]),
    listSection('ManufacturerObjects', inArea(0x2000, 0x5fff)),
    ...networkSections(origin).filter(({ name }) => !indexes.some((index) => name.startsWith(hex4(index)))),
    ...indexes.flatMap((index) =>
      objectSections(
        placed.filter((each) => each.index === index),
        set,
        facts,
      ),
    ),
  ];
  return sections.map(({ name, lines }) => [`[${name}]`, ...lines, ''].join('\r\n')).join('\r\n');
}

interface Section {
  readonly name: string;
  readonly lines: readonly string[];
}

const plain = (text: string): string => text.replace(/[\r\n]+/g, ' ').trim();

function headSections(dictionary: Dictionary, set: ParameterSet, origin: SetOrigin): Section[] {
  const [date = '', time = ''] = (origin.takenAt ?? '').split('T');
  const [year = '', month = '', day = ''] = date.split('-');
  const unreadable = [...set.readings]
    .filter(([, reading]) => typeof reading === 'object')
    .map(([code, reading]) => `unreadable ${(reading as { unreadable: string }).unreadable} ${code}`);
  const comments = [
    `dictionary ${set.dictionary}`,
    `hash ${hashOf(set)}`,
    ...unreadable,
    ...unknownCodes(dictionary, set).map(([code, raw]) => `unknown ${raw} ${code}`),
  ];
  return [
    {
      name: 'FileInfo',
      lines: [
        `FileName=${plain(origin.position ?? 'set')}.dcf`,
        'FileVersion=1',
        'FileRevision=0',
        'EDSVersion=4.0',
        `Description=Parameter set of ${plain(dictionary.name)}`,
        ...(date === '' ? [] : [`CreationDate=${month}-${day}-${year}`, `CreationTime=${twelveHours(time)}`]),
        `CreatedBy=${plain(origin.takenBy ?? '')}`,
      ],
    },
    {
      name: 'DeviceInfo',
      lines: [
        `VendorName=${plain(dictionary.maker)}`,
        `ProductName=${plain(dictionary.name)}`,
        ...['10', '20', '50', '125', '250', '500', '800', '1000'].map((rate) => `BaudRate_${rate}=0`),
        'SimpleBootUpMaster=0',
        'SimpleBootUpSlave=0',
        'Granularity=8',
        'DynamicChannelsSupported=0',
        'GroupMessaging=0',
        'NrOfRXPDO=0',
        'NrOfTXPDO=0',
        'LSS_Supported=0',
      ],
    },
    {
      name: 'DeviceComissioning',
      lines: [
        `NodeID=${origin.node ?? 1}`,
        `NodeName=${plain(origin.position ?? '')}`,
        'Baudrate=250',
        'NetNumber=1',
        'NetworkName=',
        'CANopenManager=0',
        `LSS_SerialNumber=${plain(origin.serial ?? '')}`,
      ],
    },
    {
      name: 'Comments',
      lines: [`Lines=${comments.length}`, ...comments.map((text, at) => `Line${at + 1}=${text}`)],
    },
  ];
}

/** CiA 306 has the time as `hh:mmAM`. */
function twelveHours(time: string): string {
  const [hours = 0, minutes = 0] = time.split(':').map((part) => Number.parseInt(part, 10));
  const half = hours < 12 ? 'AM' : 'PM';
  return `${String(hours % 12 || 12).padStart(2, '0')}:${String(minutes).padStart(2, '0')}${half}`;
}

const unknownCodes = (dictionary: Dictionary, set: ParameterSet): (readonly [Code, number])[] =>
  [...set.readings].flatMap(([code, reading]) =>
    typeof reading === 'number' && !findParameter(dictionary, code) ? [[code, reading] as const] : [],
  );

const hex = (index: number): string => `0x${index.toString(16).toUpperCase()}`;

const listSection = (name: string, indexes: readonly number[]): Section => ({
  name,
  lines: [`SupportedObjects=${indexes.length}`, ...indexes.map((index, at) => `${at + 1}=${hex(index)}`)],
});

function objectSections(placed: readonly PlacedParameter[], set: ParameterSet, facts: Facts): Section[] {
  const [first] = placed;
  if (!first) return [];
  const name = first.index.toString(16).toUpperCase();
  if (first.sub === 0 && placed.length === 1) return [{ name, lines: objectLines(first, set, facts) }];
  const group = first.parameter.menu.join(' / ');
  const head: Section = {
    name,
    lines: [
      `SubNumber=${placed.length + (first.sub === 0 ? 0 : 1)}`,
      `ParameterName=${plain(group)}`,
      'ObjectType=0x9',
    ],
  };
  const highest = placed.at(-1)?.sub ?? 0;
  return [
    head,
    ...(first.sub === 0 ? [] : [countSection(name, highest)]),
    ...placed.map((each) => ({
      name: `${name}sub${each.sub.toString(16).toUpperCase()}`,
      lines: objectLines(each, set, facts),
    })),
  ];
}

const hex4 = (index: number): string => index.toString(16).toUpperCase();

/** Subindex 0: the highest one that there is. */
const countSection = (name: string, highest: number): Section => ({
  name: `${name}sub0`,
  lines: fixedLines('Highest sub-index supported', 0x05, highest),
});

const fixedLines = (name: string, type: number, value: number): string[] => [
  `ParameterName=${name}`,
  'ObjectType=0x7',
  `DataType=0x${type.toString(16).padStart(4, '0')}`,
  'AccessType=ro',
  `DefaultValue=${value}`,
  'PDOMapping=0',
];

/** Objects that every device has by CiA 301; what a drive without such a network does not know is 0. */
const MANDATORY = [0x1000, 0x1001, 0x1018];

function networkSections({ serial }: SetOrigin): readonly Section[] {
  const identity = [
    ['Vendor-ID', 0],
    ['Product code', 0],
    ['Revision number', 0],
    ['Serial number', Number(serial ?? 0) || 0],
  ] as const;
  return [
    { name: '1000', lines: fixedLines('Device type', 0x07, 0) },
    { name: '1001', lines: fixedLines('Error register', 0x05, 0) },
    { name: '1018', lines: ['SubNumber=5', 'ParameterName=Identity object', 'ObjectType=0x9'] },
    countSection('1018', identity.length),
    ...identity.map(([name, value], at) => ({
      name: `1018sub${at + 1}`,
      lines: fixedLines(name, 0x07, value),
    })),
  ];
}

function objectLines({ parameter }: PlacedParameter, set: ParameterSet, facts: Facts): string[] {
  const reading = set.readings.get(parameter.code);
  const access = parameter.access === 'read' ? 'ro' : 'rw';
  return [
    `ParameterName=${plain(parameter.name)}`,
    'ObjectType=0x7',
    `DataType=0x${dataTypeOf(parameter, reading).toString(16).padStart(4, '0')}`,
    `AccessType=${access}`,
    ...limitLines(parameter, facts),
    'PDOMapping=0',
    ...(typeof reading === 'number' ? [`ParameterValue=${reading}`] : []),
  ];
}

/** Raw, as the value itself; those of options and bits follow from their lists. */
function limitLines(parameter: Parameter, facts: Facts): readonly string[] {
  const { minimum, maximum } = limitsOf(parameter, facts);
  const usual = defaultOf(parameter, facts);
  const told = (which: Untold, value: number | undefined, key: string) =>
    value === undefined || !Number.isFinite(value) || parameter.untold.includes(which)
      ? []
      : [`${key}=${value}`];
  return [
    ...told('default', usual, 'DefaultValue'),
    ...told('minimum', minimum, 'LowLimit'),
    ...told('maximum', maximum, 'HighLimit'),
  ];
}

function dataTypeOf({ register, minimum }: Parameter, reading: Reading | undefined): number {
  const negative = ('raw' in minimum && minimum.raw < 0) || (typeof reading === 'number' && reading < 0);
  const signed = register?.signed ?? negative;
  const wide = register ? register.width === 32 : true;
  if (signed) return wide ? 0x04 : 0x03;
  return wide ? 0x07 : 0x06;
}

/** Where a file tells no type: that of the register, or the smallest signed one that holds the range. */
function typeOfRange(parameter: Parameter): number {
  const { register, minimum, maximum } = parameter;
  if (register || !('raw' in minimum) || !('raw' in maximum) || minimum.raw >= 0)
    return dataTypeOf(parameter, undefined);
  const [low, high] = [minimum.raw, maximum.raw];
  const fits = [0x02, 0x03].find((type) => {
    const [least = 0, most = 0] = INTEGER_TYPES[type] ?? [];
    return low >= least && high <= most;
  });
  return fits ?? 0x04;
}

/** Lines of a set from a DCF. What belongs to the network and not to the drive is counted and left out. */
export function readSetDcf(text: string, dictionary: Dictionary): SetFileLines {
  const objects = readObjects(text);
  const stop = objects.findings.find(({ attention }) => attention === 'stop');
  if (stop)
    return nothing(finding('stop', { line: stop.line ?? 1 }, 'file-broken', { wanted: 'a DCF (CiA 306)' }));
  const known = placesOf(dictionary);
  const node = parseInteger(objects.nodeId);
  const told = tellings(objects.comments);
  const ofOthers = told.dictionary === null;
  const entries: SetFileEntry[] = [];
  const leftOut: string[] = [];
  const findings = [...objects.findings, ...productFindings(objects, dictionary, ofOthers)];
  for (const object of objects.objects) {
    if (object.value === '') continue;
    const parameter = known.get(object.address)?.parameter;
    const ofNetwork = object.index >= NETWORK_AREA[0] && object.index <= NETWORK_AREA[1];
    // Another tool writes down what it saw of counters and the network; that is no setting.
    if (ofOthers && (parameter ? isNoise(parameter) : ofNetwork)) continue;
    // What the model has no place for, as texts or domains, was left out of its dictionary, too.
    if (!parameter && (object.isCount || ofNetwork || !isInteger(object.dataType))) {
      leftOut.push(object.address);
      continue;
    }
    const value = parseInteger(object.value, node.ok ? node.value : undefined);
    const dataType = object.dataType ?? (parameter ? typeOfRange(parameter) : null);
    if (value.ok && !fitsType(value.value, dataType)) {
      const facts = { object: object.address, text: object.value };
      findings.push(finding('stop', { line: object.line }, 'object-beyond-type', facts));
      continue;
    }
    entries.push({
      ...BARE_ENTRY,
      line: object.line,
      code: parameter?.code ?? object.address,
      raw: value.ok ? String(inTypeRange(value.value, dataType)) : object.value,
    });
  }
  return {
    head: { dictionary: told.dictionary, hash: told.hash, serial: serialIn(objects.serial) },
    entries: [...entries, ...told.unreadable],
    findings: [
      ...findings,
      ...(leftOut.length > 0
        ? [
            finding('look', { line: 1 }, 'objects-left-out', {
              ...{ objects: leftOut, why: 'the dictionary of the model does not hold them' },
            }),
          ]
        : []),
    ],
  };
}

/** A type that is not told is that of the dictionary. */
const isInteger = (dataType: number | null): boolean =>
  dataType === null || INTEGER_TYPES[dataType] !== undefined;

/** Letters and digits alone: `Quenby Drives Ltd.` is Quenby. */
const bareName = (text: string): string => text.toLowerCase().replace(/[^a-z0-9]/g, '');

/** A file of another maker or product may have the same objects, and mean something else by them. */
function productFindings(
  objects: ObjectDictionary,
  { maker, name, device }: Dictionary,
  ofOthers: boolean,
): readonly Finding[] {
  const { vendor, product } = objects;
  const numbers = numberFindings(deviceNumbers(objects), device);
  if (numbers.length > 0) return numbers;
  const differs = (found: string, wanted: string) =>
    found !== '' &&
    !bareName(found).includes(bareName(wanted)) &&
    !bareName(wanted).includes(bareName(found));
  const [other, otherProduct] = [differs(vendor, maker), differs(product, name)];
  if (!other && !otherProduct) return [];
  const found = [vendor, product].filter(Boolean).join(' ');
  const attention = ofOthers && other && otherProduct ? 'stop' : 'look';
  return [finding(attention, { line: 1 }, 'product-differs', { found, wanted: `${maker} ${name}` })];
}

/** Numbers are told by the maker himself: another vendor or product is another device. */
function numberFindings(found: DeviceNumbers, known: DeviceNumbers | null): readonly Finding[] {
  return (['vendor', 'product', 'revision'] as const).flatMap((which) => {
    const [a, b] = [found[which], known?.[which] ?? null];
    if (a === null || b === null || a === b) return [];
    const facts = { which, found: `0x${a.toString(16)}`, wanted: `0x${b.toString(16)}` };
    return [finding(which === 'revision' ? 'look' : 'stop', { line: 1 }, 'device-differs', facts)];
  });
}

/** What this project writes into the comments: a file from elsewhere has none of it. */
function tellings(comments: readonly string[]): {
  dictionary: string | null;
  hash: string | null;
  unreadable: readonly SetFileEntry[];
} {
  const after = (word: string) =>
    comments.find((line) => line.startsWith(`${word} `))?.slice(word.length + 1);
  const unreadable = comments.flatMap((line) => {
    const match = /^unreadable (\S+) (.+)$/.exec(line);
    const [, reason = '', code = ''] = match ?? [];
    return match ? [{ ...BARE_ENTRY, line: 1, code, unreadable: reason }] : [];
  });
  return { dictionary: after('dictionary') ?? null, hash: after('hash') ?? null, unreadable };
}
