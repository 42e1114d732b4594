// The terminals of a model (terminals.yaml). Every code that is named must be in the dictionary.

import { type FactReader, readYaml } from './fact-reader.ts';
import type { Finding } from '../findings/index.ts';
import type { Code } from './parameter.ts';
import {
  OWNERS,
  TERMINAL_KINDS,
  type BoardSwitch,
  type SupplyArrangement,
  type Terminal,
  type TerminalChart,
  type TerminalLink,
} from './terminals.ts';

/**
 * Reads terminals.yaml: strips with their terminals in the order in which they sit, links, switches of the board and ways to
 * supply the inputs. Codes named there have to be among `known`. Nothing where it is not YAML.
 */
export function readTerminals(
  text: string,
  known: ReadonlySet<string>,
  findings: Finding[],
): TerminalChart | undefined {
  const at = readYaml('terminals.yaml', text, findings);
  if (!at) return undefined;
  const codes = new CodeReader(known);
  const strips = at.list('strips').map((strip) => ({
    name: strip.text('name'),
    terminals: strip.list('terminals').map((terminal) => readTerminal(terminal, codes)),
  }));
  const ids = new Set(strips.flatMap((strip) => strip.terminals.map(({ id }) => id)));
  return {
    strips,
    links: at.listIfAny('links').map((link) => readLink(link, ids)),
    switches: at.listIfAny('switches').map((each) => readSwitch(each, codes)),
    arrangements: at.listIfAny('arrangements').map(readArrangement),
  };
}

function readTerminal(at: FactReader, codes: CodeReader): Terminal {
  const numberIfAny = (key: string) => (at.has(key) ? at.number(key) : null);
  return {
    id: at.text('id'),
    name: at.textIfAny('name'),
    kind: at.oneOf('kind', TERMINAL_KINDS),
    signal: at.textIfAny('signal'),
    volts: numberIfAny('volts'),
    milliamps: numberIfAny('milliamps'),
    logic: at.has('logic') ? at.oneOf('logic', ['sourcing', 'sinking']) : null,
    burdenOhm: numberIfAny('burden_ohm'),
    leastOhm: numberIfAny('least_ohm'),
    mostOhm: numberIfAny('most_ohm'),
    contact: at.has('contact') ? readContact(at.in('contact')) : null,
    does: at.textIfAny('does'),
    setBy: codes.ifAny(at, 'set_by'),
    sense: at.has('sense')
      ? {
          code: codes.at(at.in('sense'), 'code'),
          bit: at.in('sense').has('bit') ? at.in('sense').integer('bit') : null,
        }
      : null,
    filter: codes.ifAny(at, 'filter'),
    program: at.has('program') ? at.text('program') : null,
    owner: at.has('owner') ? at.oneOf('owner', OWNERS) : 'drive',
    ownedBy: at.has('owned_by')
      ? { code: codes.at(at.in('owned_by'), 'code'), bit: at.in('owned_by').integer('bit') }
      : null,
  };
}

const readContact = (at: FactReader): Terminal['contact'] => ({
  relay: at.integer('relay'),
  side: at.oneOf('side', ['closes', 'opens', 'common']),
});

function readLink(at: FactReader, ids: ReadonlySet<string>): TerminalLink {
  const [from = '', to = '', ...more] = at.texts('between');
  if (more.length > 0 || !ids.has(from) || !ids.has(to)) at.missing('between', 'two terminals of this chart');
  return { between: [from, to], factory: at.flag('factory'), why: at.text('why') };
}

function readSwitch(at: FactReader, codes: CodeReader): BoardSwitch {
  const places = at.list('places').map((place) => ({
    name: place.text('name'),
    does: place.text('does'),
    agrees: place.has('agrees') ? place.integers('agrees') : null,
    makes: place.has('makes') ? place.texts('makes') : null,
  }));
  return {
    id: at.text('id'),
    name: at.text('name'),
    places,
    factory: at.oneOf(
      'factory',
      places.map(({ name }) => name),
    ),
    agreesWith: codes.ifAny(at, 'agrees_with'),
  };
}

const readArrangement = (at: FactReader): SupplyArrangement => ({
  name: at.text('name'),
  logic: at.oneOf('logic', ['sourcing', 'sinking']),
  supply: at.oneOf('supply', ['internal', 'external']),
  factory: at.flag('factory'),
  how: at.text('how'),
});

/** Codes of a dictionary, wherever a file names them. */
export class CodeReader {
  private readonly known: ReadonlySet<string>;

  constructor(known: ReadonlySet<string>) {
    this.known = known;
  }

  at(reader: FactReader, key: string): Code {
    const text = reader.text(key);
    if (text !== '' && !this.known.has(text)) reader.unknownCode(key, text);
    return text as Code;
  }

  /** A code that stands as a key. */
  named(reader: FactReader, key: string): Code {
    if (!this.known.has(key)) reader.unknownCode(key, key);
    return key as Code;
  }

  ifAny(reader: FactReader, key: string): Code | null {
    return reader.has(key) ? this.at(reader, key) : null;
  }

  listIfAny(reader: FactReader, key: string): Code[] {
    const texts = reader.has(key) ? reader.texts(key) : [];
    for (const text of texts.filter((each) => !this.known.has(each))) reader.unknownCode(key, text);
    return texts as Code[];
  }
}
