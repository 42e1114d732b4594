// Objects of an EDS or DCF (CiA 306): index and subindex, types, limits and values. One reader for both: an EDS tells
// what a device has, a DCF also what it is set to.

import type { DeviceNumbers } from '../dictionary/index.ts';
import { finding, type Finding } from '../findings/index.ts';
import { fail, ok, type Result } from '../values/index.ts';
import { iniValue, readIni, type IniFile, type IniSection } from './ini-sections.ts';

export interface ObjectEntry {
  readonly line: number;
  readonly index: number;
  readonly sub: number;
  /** `2010:01` */
  readonly address: string;
  /** Subindex 0 of an array or a record: how many there are. */
  readonly isCount: boolean;
  readonly group: string;
  readonly name: string;
  /** Data type by CiA 301, such as 6 for UNSIGNED16; nothing where the file does not say. */
  readonly dataType: number | null;
  readonly access: string;
  readonly low: string;
  readonly high: string;
  readonly default: string;
  /** Set only in a DCF. */
  readonly value: string;
}

export interface ObjectDictionary {
  readonly vendor: string;
  readonly product: string;
  readonly revision: string;
  /** `VendorNumber` and `ProductNumber`, as text. */
  readonly vendorNumber: string;
  readonly productNumber: string;
  readonly description: string;
  /** From the commissioning section of a DCF, as text. */
  readonly nodeId: string;
  /** Of the unit that the file is about, by `LSS_SerialNumber`; empty where it is not told. */
  readonly serial: string;
  readonly comments: readonly string[];
  readonly objects: readonly ObjectEntry[];
  readonly findings: readonly Finding[];
}

/** A device has a few hundred; a file that claims more than this is a mistake or worse. */
const MOST_OBJECTS = 20_000;
const MOST_BROKEN_TOLD = 20;

const OBJECT_LISTS = ['mandatoryobjects', 'optionalobjects', 'manufacturerobjects'];
const HEX4 = /^[0-9a-f]{4}$/;

/** `2010:01`: index of 16 bits and subindex of 8 bits, hexadecimal, as CiA 301 writes them. */
export const objectAddress = (index: number, sub: number): string =>
  `${index.toString(16).toUpperCase().padStart(4, '0')}:${sub.toString(16).toUpperCase().padStart(2, '0')}`;

/**
 * Reads an EDS or DCF (CiA 306-1) with its findings. At most 20,000 objects are read; `CompactSubObj` is unfolded.
 * `stop` where it is no such file or claims more objects than a device has.
 */
export function readObjects(text: string): ObjectDictionary {
  const file = readIni(text);
  const findings: Finding[] = [];
  const device = file.sections.get('deviceinfo');
  if (!device || !OBJECT_LISTS.some((name) => file.sections.has(name))) {
    findings.push(finding('stop', { line: 1 }, 'not-an-object-file', {}));
  }
  for (const line of file.broken.slice(0, MOST_BROKEN_TOLD))
    findings.push(finding('look', { line }, 'line-passed-over', {}));
  for (const { line, name } of file.twice)
    findings.push(finding('stop', { line }, 'section-twice', { text: name }));
  for (const { line, key, first, value } of file.keysTwice)
    findings.push(finding('stop', { line }, 'key-twice', { key, first, value }));
  const objects = listedIndexes(file, findings).flatMap((index) => objectsAt(file, index, findings));
  if (objects.length > MOST_OBJECTS)
    findings.push(finding('stop', { line: 1 }, 'too-many-objects', { most: MOST_OBJECTS }));
  // CiA 306 spells the section with one m; tools spell it either way.
  const commissioning = file.sections.get('devicecomissioning') ?? file.sections.get('devicecommissioning');
  return {
    vendor: iniValue(device, 'VendorName'),
    product: iniValue(device, 'ProductName'),
    revision: iniValue(device, 'RevisionNumber'),
    vendorNumber: iniValue(device, 'VendorNumber'),
    productNumber: iniValue(device, 'ProductNumber'),
    description: iniValue(file.sections.get('fileinfo'), 'Description'),
    nodeId: iniValue(commissioning, 'NodeID'),
    serial: iniValue(commissioning, 'LSS_SerialNumber'),
    comments: commentsOf(file.sections.get('comments')),
    objects: objects.slice(0, MOST_OBJECTS),
    findings,
  };
}

function listedIndexes(file: IniFile, findings: Finding[]): number[] {
  const indexes = new Set<number>();
  for (const name of OBJECT_LISTS) {
    for (const { key, value, line } of file.sections.get(name)?.entries.values() ?? []) {
      if (!/^\d+$/.test(key)) continue;
      const index = parseInteger(value);
      const known = index.ok && index.value >= 0x1000 && index.value <= 0xffff;
      if (known && file.sections.has(index.value.toString(16))) indexes.add(index.value);
      else findings.push(finding('look', { line }, 'object-without-section', { text: value }));
    }
  }
  // Tools forget to list: a section that is there counts.
  for (const key of file.sections.keys()) if (HEX4.test(key)) indexes.add(Number.parseInt(key, 16));
  return [...indexes].sort((a, b) => a - b);
}

function objectsAt(file: IniFile, index: number, findings: Finding[]): ObjectEntry[] {
  const hex = index.toString(16);
  const section = file.sections.get(hex);
  if (!section) return [];
  const compact = parseInteger(iniValue(section, 'CompactSubObj'));
  if (compact.ok && compact.value > 0) return compactObjects(file, section, index, compact.value, findings);
  const prefix = `${hex}sub`;
  // Tools write `sub1` and `sub01`.
  const subs = [...file.sections.entries()]
    .filter(([key]) => key.startsWith(prefix) && /^[0-9a-f]{1,3}$/.test(key.slice(prefix.length)))
    .map(([key, own]) => ({ sub: Number.parseInt(key.slice(prefix.length), 16), own }))
    .filter(({ sub }) => sub <= 0xff)
    .sort((a, b) => a.sub - b.sub);
  const twice = subs.find(({ sub }, at) => subs[at - 1]?.sub === sub);
  if (twice)
    findings.push(finding('stop', { line: twice.own.line }, 'section-twice', { text: twice.own.name }));
  const structured = subs.length > 0 && !['0x7', '7', '0x07'].includes(iniValue(section, 'ObjectType'));
  if (!structured) return [toEntry(section, index, 0, '')];
  const group = iniValue(section, 'ParameterName');
  // Subindex 0 of an array or a record tells how many there are: it is read, and no parameter.
  return subs.map(({ sub, own }) => toEntry(own, index, sub, group, true));
}

/** `CompactSubObj=n`: one description for n equal subobjects, with names and values in sections of their own. */
function compactObjects(
  file: IniFile,
  section: IniSection,
  index: number,
  count: number,
  findings: Finding[],
): ObjectEntry[] {
  if (count > 0xfe) {
    findings.push(finding('stop', { line: section.line }, 'too-many-objects', { most: 0xfe }));
    return [];
  }
  const hex = index.toString(16);
  const group = iniValue(section, 'ParameterName');
  const names = file.sections.get(`${hex}name`);
  const values = file.sections.get(`${hex}value`);
  return Array.from({ length: count }, (_, at) => {
    const sub = at + 1;
    const entry = toEntry(section, index, sub, group);
    const name = iniValue(names, String(sub));
    return {
      ...entry,
      name: name === '' ? `${group}${sub}` : name,
      value: iniValue(values, String(sub)),
    };
  });
}

const toEntry = (
  section: IniSection,
  index: number,
  sub: number,
  group: string,
  ofMany = false,
): ObjectEntry => {
  const type = parseInteger(iniValue(section, 'DataType'));
  return {
    line: section.line,
    index,
    sub,
    isCount: ofMany && sub === 0,
    address: objectAddress(index, sub),
    group,
    name: iniValue(section, 'ParameterName'),
    dataType: type.ok ? type.value : null,
    access: iniValue(section, 'AccessType').toLowerCase(),
    low: bare(iniValue(section, 'LowLimit')),
    high: bare(iniValue(section, 'HighLimit')),
    default: bare(iniValue(section, 'DefaultValue')),
    value: bare(iniValue(section, 'ParameterValue')),
  };
};

/** Tools write comments behind numbers, too. */
const bare = (text: string): string => /^([^;"]*\S)\s+;.*$/.exec(text)?.[1] ?? text;

function commentsOf(section: IniSection | undefined): string[] {
  return [...(section?.entries.values() ?? [])]
    .filter(({ key }) => /^line\d+$/i.test(key))
    .map(({ value }) => value);
}

/** Numbers of the device as far as they are told. */
export function deviceNumbers(
  objects: Pick<ObjectDictionary, 'vendorNumber' | 'productNumber' | 'revision'>,
): DeviceNumbers {
  const read = (text: string) => {
    const number = parseInteger(bare(text));
    // Tools write 0 where they know none.
    return number.ok && number.value > 0 ? number.value : null;
  };
  return {
    vendor: read(objects.vendorNumber),
    product: read(objects.productNumber),
    revision: read(objects.revision),
  };
}

export type IntegerFault = 'empty' | 'not-an-integer' | 'too-large' | 'node-id-wanted';

/**
 * A number as CiA 306 writes it: decimal, hexadecimal after `0x`, octal after a leading `0`, and `$NODEID` with an
 * addition (`$NODEID+0x200`). `nodeId` is the number that stands for `$NODEID`, where it is known.
 */
export function parseInteger(text: string, nodeId?: number): Result<number, IntegerFault> {
  const trimmed = text.trim();
  if (trimmed === '') return fail('empty');
  if (!/\$nodeid/i.test(trimmed)) return parsePlain(trimmed);
  if (nodeId === undefined) return fail('node-id-wanted');
  let sum = 0;
  for (const part of trimmed.split('+')) {
    const value = /^\$nodeid$/i.test(part.trim()) ? ok(nodeId) : parsePlain(part.trim());
    if (!value.ok) return value;
    sum += value.value;
  }
  return Number.isSafeInteger(sum) ? ok(sum) : fail('too-large');
}

function parsePlain(text: string): Result<number, IntegerFault> {
  const match = /^(-?)(?:0x([0-9a-f]+)|(0[0-7]+)|(0|[1-9]\d*))$/i.exec(text);
  if (!match) return fail('not-an-integer');
  const [, sign, hex, octal, decimal] = match;
  const size = hex ? Number.parseInt(hex, 16) : octal ? Number.parseInt(octal, 8) : Number(decimal);
  if (!Number.isSafeInteger(size)) return fail('too-large');
  return ok(sign === '-' && size !== 0 ? -size : size);
}

/** Minimum and maximum value of the integer types of CiA 301; nothing for text, real numbers and 64 bits. */
export const INTEGER_TYPES: Readonly<Record<number, readonly [minimum: number, maximum: number]>> = {
  0x01: [0, 1],
  0x02: [-128, 127],
  0x03: [-32_768, 32_767],
  0x04: [-2_147_483_648, 2_147_483_647],
  0x05: [0, 255],
  0x06: [0, 65_535],
  0x07: [0, 4_294_967_295],
  0x10: [-8_388_608, 8_388_607],
  0x16: [0, 16_777_215],
};
/** Data type of CiA 301, 7.4.7. */
export const BOOLEAN_TYPE = 0x01;

/** Whether a value of this type can hold it; a signed one also as its bit pattern. */
export function fitsType(value: number, dataType: number | null): boolean {
  const range = INTEGER_TYPES[dataType ?? -1];
  return !range || (value >= range[0] && value <= (range[0] < 0 ? range[1] - range[0] : range[1]));
}

/** A value of a signed type may be written as its bit pattern: `0xFFFF` is −1 of 16 bits. */
export function inTypeRange(value: number, dataType: number | null): number {
  const range = INTEGER_TYPES[dataType ?? -1];
  if (!range || range[0] >= 0 || value <= range[1] || value > range[1] - range[0]) return value;
  return value - (range[1] - range[0] + 1);
}
