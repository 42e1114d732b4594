// A model from an EDS (CiA 306): the objects that hold whole numbers become parameters, under their index and subindex
// as code. An EDS knows no units and no resolution; what it does not say is left empty and never made up.

import { guessPurpose } from '../dictionary/index.ts';
import {
  BOOLEAN_TYPE,
  INTEGER_TYPES,
  inTypeRange,
  parseInteger,
  readObjects,
  type ObjectEntry,
  type ObjectFinding,
} from './object-dictionary.ts';
import type { OwnModelFinding, OwnParameter, ParameterCells } from './own-model.ts';

export interface EdsModel {
  readonly vendor: string;
  readonly product: string;
  readonly revision: string;
  readonly description: string;
  readonly parameters: readonly OwnParameter[];
  readonly findings: readonly OwnModelFinding[];
}

/** Where `$NODEID` stands in a default, the default depends on the node: the first number is taken and told. */
const FIRST_NODE = 1;

export function readEds(text: string): EdsModel {
  const objects = readObjects(text);
  const findings: OwnModelFinding[] = objects.findings.map((finding) => ({
    line: finding.line,
    column: '',
    severity: finding.severity,
    text: describeObjectFinding(finding),
  }));
  const leftOut = new Map<string, number>();
  const parameters = objects.objects.flatMap((object) => {
    const why = whyNotTaken(object);
    if (why) {
      leftOut.set(why, (leftOut.get(why) ?? 0) + 1);
      return [];
    }
    return [{ line: object.line, cells: cellsOf(object, findings) }];
  });
  for (const [why, count] of leftOut) {
    const text = `${count} ${count === 1 ? 'object is' : 'objects are'} left out: ${why}.`;
    findings.push({ line: 1, column: '', severity: 'look', text });
  }
  const { vendor, product, revision, description } = objects;
  return { vendor, product, revision, description, parameters, findings };
}

export function describeObjectFinding(finding: ObjectFinding): string {
  switch (finding.code) {
    case 'ini-broken':
      return 'This line is neither a section nor "Key=Value" and is passed over.';
    case 'not-an-object-file':
      return 'This is no EDS or DCF: it needs [DeviceInfo] and a list of objects (CiA 306).';
    case 'section-twice':
      return `The section [${finding.text}] is there twice; the first one counts.`;
    case 'object-without-section':
      return `The object ${finding.text} is listed but has no section.`;
    case 'too-many-objects':
      return `There are more than ${finding.most} objects. Is this the right file?`;
  }
}

function whyNotTaken({ dataType, access }: ObjectEntry): string | undefined {
  if (dataType === null) return 'they have no data type';
  if (!INTEGER_TYPES[dataType]) return 'they hold text, real numbers or more than 32 bits';
  return access === 'wo' ? 'they can only be written' : undefined;
}

function cellsOf(object: ObjectEntry, findings: OwnModelFinding[]): ParameterCells {
  const access = object.access === 'ro' || object.access === 'const' ? 'read' : 'write';
  const name = object.name === '' ? object.address : object.name;
  const common = {
    code: object.address,
    name,
    menu: object.group === '' ? areaOf(object.index) : object.group,
    purpose: access === 'read' ? 'monitor' : guessPurpose(`${name} ${object.group}`),
    access,
    keeping: object.access === 'const' ? 'identity' : access === 'read' ? 'monitor' : 'setting',
  };
  const value = (column: 'low' | 'high' | 'default', key: string): number | undefined => {
    const text = object[column];
    if (text === '') return undefined;
    const parsed = parseInteger(text, FIRST_NODE);
    if (parsed.ok && /\$nodeid/i.test(text)) {
      const told = `${object.address}: "${text}" depends on the node; ${parsed.value} holds for node ${FIRST_NODE}.`;
      findings.push({ line: object.line, column: key, severity: 'look', text: told });
    }
    if (parsed.ok) return inTypeRange(parsed.value, object.dataType);
    const told = `${object.address}: "${text}" cannot be read as a number; write 12, 0x0C or $NODEID+12.`;
    findings.push({ line: object.line, column: key, severity: 'stop', text: told });
    return undefined;
  };
  const usual = access === 'read' ? undefined : value('default', 'DefaultValue');
  const shown = usual === undefined ? '' : String(usual);
  if (object.dataType === BOOLEAN_TYPE) {
    return { ...common, kind: 'option', options: '0 = false; 1 = true', default: shown };
  }
  const [typeLow = 0, typeHigh = 0] = INTEGER_TYPES[object.dataType ?? 0] ?? [];
  return {
    ...common,
    kind: 'number',
    unit: '',
    resolution: '1',
    least: String(value('low', 'LowLimit') ?? typeLow),
    greatest: String(value('high', 'HighLimit') ?? typeHigh),
    default: shown,
  };
}

function areaOf(index: number): string {
  if (index < 0x2000) return 'Network';
  return index < 0x6000 ? 'Maker’s objects' : 'Standard objects';
}
