// A set as a DCF (CiA 306-1): what every tool for such networks reads. Models that are no network devices get object
// addresses of the manufacturer's area from their registers, so that the same dictionary always gives the same file.

import { findParameter, isNoise, type Code, type Dictionary, type Parameter } from '../dictionary/index.ts';
import { finding } from '../findings/index.ts';
import { hashOf, type ParameterSet } from '../sets/index.ts';
import type { Reading } from '../values/index.ts';
import { nothing, type SetFileLines } from './set-csv.ts';
import { serialIn, type SetFileEntry } from './set-file.ts';
import type { SetOrigin } from './set-json.ts';
import { inTypeRange, objectAddress, parseInteger, readObjects } from './object-dictionary.ts';

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
export function writeSetDcf(dictionary: Dictionary, set: ParameterSet, origin: SetOrigin): string {
  const placed = [...placesOf(dictionary).values()].sort((a, b) => a.index - b.index || a.sub - b.sub);
  const indexes = [...new Set(placed.map(({ index }) => index))];
  const inArea = (from: number, to: number) => indexes.filter((index) => index >= from && index <= to);
  const sections = [
    ...headSections(dictionary, set, origin),
    listSection('MandatoryObjects', []),
    listSection('OptionalObjects', [...inArea(...NETWORK_AREA), ...inArea(0x6000, 0xffff)]),
    listSection('ManufacturerObjects', inArea(0x2000, 0x5fff)),
    ...indexes.flatMap((index) =>
      objectSections(
        placed.filter((each) => each.index === index),
        set,
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
      lines: [`NodeName=${plain(origin.position ?? '')}`, `LSS_SerialNumber=${plain(origin.serial ?? '')}`],
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

function objectSections(placed: readonly PlacedParameter[], set: ParameterSet): Section[] {
  const [first] = placed;
  if (!first) return [];
  const name = first.index.toString(16).toUpperCase();
  if (first.sub === 0 && placed.length === 1) return [{ name, lines: objectLines(first, set) }];
  const group = first.parameter.menu.join(' / ');
  const head: Section = {
    name,
    lines: [`SubNumber=${placed.length}`, `ParameterName=${plain(group)}`, 'ObjectType=0x9'],
  };
  return [
    head,
    ...placed.map((each) => ({
      name: `${name}sub${each.sub.toString(16).toUpperCase()}`,
      lines: objectLines(each, set),
    })),
  ];
}

function objectLines({ parameter }: PlacedParameter, set: ParameterSet): string[] {
  const reading = set.readings.get(parameter.code);
  const access = parameter.access === 'read' ? 'ro' : 'rw';
  return [
    `ParameterName=${plain(parameter.name)}`,
    'ObjectType=0x7',
    `DataType=0x${dataTypeOf(parameter, reading).toString(16).padStart(4, '0')}`,
    `AccessType=${access}`,
    'PDOMapping=0',
    ...(typeof reading === 'number' ? [`ParameterValue=${reading}`] : []),
  ];
}

function dataTypeOf({ register, minimum }: Parameter, reading: Reading | undefined): number {
  const negative = ('raw' in minimum && minimum.raw < 0) || (typeof reading === 'number' && reading < 0);
  const signed = register?.signed ?? negative;
  const wide = register ? register.width === 32 : true;
  if (signed) return wide ? 0x04 : 0x03;
  return wide ? 0x07 : 0x06;
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
  for (const object of objects.objects) {
    if (object.value === '') continue;
    const parameter = known.get(object.address)?.parameter;
    const ofNetwork = object.index >= NETWORK_AREA[0] && object.index <= NETWORK_AREA[1];
    // Another tool writes down what it saw of counters and the network; that is no setting.
    if (ofOthers && (parameter ? isNoise(parameter) : ofNetwork)) continue;
    const value = parseInteger(object.value, node.ok ? node.value : undefined);
    entries.push({
      line: object.line,
      code: parameter?.code ?? object.address,
      value: '',
      raw: value.ok ? String(inTypeRange(value.value, object.dataType)) : object.value,
      unit: '',
      unreadable: '',
    });
  }
  return {
    head: { dictionary: told.dictionary, hash: told.hash, serial: serialIn(objects.serial) },
    entries: [...entries, ...told.unreadable],
    findings: [],
  };
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
    return match ? [{ line: 1, code, value: '', raw: '', unit: '', unreadable: reason }] : [];
  });
  return { dictionary: after('dictionary') ?? null, hash: after('hash') ?? null, unreadable };
}
