// A model from an EDS (CiA 306): the objects that hold whole numbers become parameters, under their index and subindex
// as code. An EDS knows no units and no resolution; what it does not say is left empty and never made up.

import { guessPurpose, type DeviceNumbers } from '../dictionary/index.ts';
import { finding, type Finding } from '../findings/index.ts';
import {
  BOOLEAN_TYPE,
  deviceNumbers,
  fitsType,
  INTEGER_TYPES,
  inTypeRange,
  parseInteger,
  readObjects,
  type ObjectEntry,
} from './object-dictionary.ts';
import type { OwnParameter, ParameterCells } from './own-model.ts';

export interface EdsModel {
  readonly vendor: string;
  readonly product: string;
  readonly revision: string;
  readonly description: string;
  readonly device: DeviceNumbers;
  readonly parameters: readonly OwnParameter[];
  readonly findings: readonly Finding[];
}

/** Where `$NODEID` stands in a default, the default depends on the node: the first number is taken and told. */
const FIRST_NODE = 1;

/**
 * A model from an EDS (CiA 306-1). Objects of the types INTEGER8 to INTEGER32, UNSIGNED8 to UNSIGNED32 and BOOLEAN become
 * parameters, raw and without a unit; how many others were left out is told, and why. An EDS tells no registers.
 */
export function readEds(text: string): EdsModel {
  const objects = readObjects(text);
  const findings = [...objects.findings];
  const leftOut = new Map<string, string[]>();
  const parameters = objects.objects.flatMap((object) => {
    const why = whyNotTaken(object);
    if (why) {
      leftOut.set(why, [...(leftOut.get(why) ?? []), object.address]);
      return [];
    }
    return [{ line: object.line, cells: cellsOf(object, findings) }];
  });
  for (const [why, names] of leftOut)
    findings.push(finding('look', { line: 1 }, 'objects-left-out', { objects: names, why }));
  const { vendor, product, revision, description } = objects;
  return { vendor, product, revision, description, device: deviceNumbers(objects), parameters, findings };
}

function whyNotTaken({ dataType, access, isCount }: ObjectEntry): string | undefined {
  if (isCount) return 'they count the others of their object';
  if (dataType === null) return 'they have no data type';
  if (!INTEGER_TYPES[dataType]) return 'they hold text, real numbers or more than 32 bits';
  return access === 'wo' ? 'they can only be written' : undefined;
}

/** By CiA 306-1, table 8. */
const WRITABLE: readonly string[] = ['rw', 'rwr', 'rww', 'wo'];

function cellsOf(object: ObjectEntry, findings: Finding[]): ParameterCells {
  const access = ['ro', 'const'].includes(object.access)
    ? 'read'
    : WRITABLE.includes(object.access)
      ? 'write'
      : undefined;
  if (access === undefined)
    findings.push(
      finding('stop', { line: object.line, column: 'AccessType' }, 'access-asked', { text: object.access }),
    );
  const name = object.name === '' ? object.address : object.name;
  const common = {
    code: object.address,
    name,
    menu: object.group === '' ? areaOf(object.index) : object.group,
    purpose: access === 'read' ? 'monitor' : guessPurpose(`${name} ${object.group}`),
    ...(access && { access }),
    keeping: object.access === 'const' ? 'identity' : access === 'read' ? 'monitor' : 'setting',
  };
  const value = (column: 'low' | 'high' | 'default', key: string): number | undefined => {
    const text = object[column];
    if (text === '') return undefined;
    const place = { line: object.line, column: key };
    const parsed = parseInteger(text, FIRST_NODE);
    if (parsed.ok && /\$nodeid/i.test(text)) {
      const facts = { object: object.address, text, value: parsed.value, node: FIRST_NODE };
      findings.push(finding('look', place, 'value-depends-on-node', facts));
    }
    if (parsed.ok && !fitsType(parsed.value, object.dataType)) {
      findings.push(finding('stop', place, 'object-beyond-type', { object: object.address, text }));
      return undefined;
    }
    if (parsed.ok) return inTypeRange(parsed.value, object.dataType);
    findings.push(finding('stop', place, 'object-value-unreadable', { object: object.address, text }));
    return undefined;
  };
  const usual = access === 'read' ? undefined : value('default', 'DefaultValue');
  const shown = usual === undefined ? (access === 'read' ? '' : '?') : String(usual);
  if (object.dataType === BOOLEAN_TYPE) {
    return { ...common, kind: 'option', options: '0 = false; 1 = true', default: shown };
  }
  const [typeLow = 0, typeHigh = 0] = INTEGER_TYPES[object.dataType ?? 0] ?? [];
  return {
    ...common,
    kind: 'number',
    unit: '',
    resolution: '1',
    minimum: String(value('low', 'LowLimit') ?? typeLow),
    maximum: String(value('high', 'HighLimit') ?? typeHigh),
    default: shown,
  };
}

function areaOf(index: number): string {
  if (index < 0x2000) return 'Network';
  return index < 0x6000 ? 'Maker’s objects' : 'Standard objects';
}
