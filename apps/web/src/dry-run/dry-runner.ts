// The dry run of one machine: a sequence of events in, sentences out. Runs in a worker; without one (as in tests) in place.

import {
  begin,
  codesOfReason,
  combinations,
  machineOf,
  sayDetails,
  sayEvent,
  sayHeadline,
  sayIgnored,
  sayMissing,
  sayPosition,
  sayReason,
  trace,
  type Event,
  type Machine,
  type Outcome,
  type Speaker,
  type State,
} from '@drive-keep/core/behaviour';
import type { Code, Dictionary } from '@drive-keep/core/dictionary';
import { Bridge, Vocabulary } from '@drive-keep/core/meanings';
import { NO_WIRING, readWiring, WIRING_COLUMNS, type Wiring } from '@drive-keep/core/wiring';
import type { DryRunView, VocabularyView } from '@drive-keep/api';

export interface DryRunInput {
  readonly view: DryRunView;
  readonly dictionary: Dictionary;
  readonly vocabulary: VocabularyView;
}

export interface ReasonLine {
  readonly text: string;
  /** Parameters in it. */
  readonly codes: readonly Code[];
}

export interface DryRunAnswer {
  readonly kind: Outcome['kind'];
  readonly headline: string;
  readonly details: readonly string[];
  readonly reasons: readonly ReasonLine[];
  readonly ignored: readonly string[];
  readonly missing: readonly string[];
  readonly outputs: readonly { readonly name: string; readonly on: boolean | null }[];
  readonly state: State;
  /** What was done, and what came of it. */
  readonly done: readonly { readonly text: string; readonly headline: string }[];
  readonly table: {
    readonly devices: readonly string[];
    readonly rows: readonly {
      readonly places: readonly string[];
      readonly headline: string;
      readonly kind: Outcome['kind'];
    }[];
  };
}

/** The wiring of a table that the server has read before. */
export function wiringOf(rows: DryRunView['wiring']): Wiring {
  const read = readWiring({
    columns: [...WIRING_COLUMNS],
    rows: rows.map((cells, at) => ({
      line: at + 1,
      cells: Object.fromEntries(WIRING_COLUMNS.map((column, place) => [column, cells[place] ?? ''])),
    })),
  });
  return read.ok ? read.value : NO_WIRING;
}

/** The machine, with the words for what it does. */
export function machineIn({ view, dictionary, vocabulary }: DryRunInput): Speaker {
  const words = new Vocabulary(vocabulary.entries, vocabulary.functions);
  const outfit = { rating: view.rating, region: view.region };
  const readings = new Map(view.readings.map(([code, reading]) => [code as Code, reading]));
  const set = new Bridge(words).read(dictionary, outfit, readings);
  return { machine: machineOf(set, wiringOf(view.wiring)), term: words.termOf };
}

export class DryRunner {
  private readonly machine: Machine;
  private readonly speaker: Speaker;

  constructor(input: DryRunInput) {
    this.speaker = machineIn(input);
    this.machine = this.speaker.machine;
  }

  answer(events: readonly Event[]): DryRunAnswer {
    const { machine, speaker } = this;
    const steps = trace(machine, events);
    const { state, outcome } = steps.at(-1) ?? begin(machine);
    return {
      kind: outcome.kind,
      headline: sayHeadline(outcome, state.fault),
      details: sayDetails(outcome, speaker),
      reasons: outcome.reasons.map((reason) => ({
        text: sayReason(reason, speaker),
        codes: codesOfReason(reason),
      })),
      ignored: outcome.ignored.map((each) => sayIgnored(each, speaker)),
      missing: outcome.missing.map((each) => sayMissing(each, speaker)),
      outputs: machine.outputs.map(({ number, does, inverted, closes, transistor }) => ({
        name: `${closes ?? transistor?.terminal ?? number} (${speaker.term(does ?? 'not told')}${inverted ? ', inverted' : ''})`,
        on: outcome.outputs[number] ?? null,
      })),
      state,
      done: events.map((event, at) => {
        const after = steps[at + 1];
        const headline = after ? sayHeadline(after.outcome, after.state.fault) : '';
        return { text: sayEvent(event, speaker), headline };
      }),
      table: this.table(state),
    };
  }

  private table(state: State): DryRunAnswer['table'] {
    const rows = combinations(this.machine, state);
    const devices = Object.keys(rows[0]?.devices ?? {});
    const of = (name: string) => this.machine.wiring.devices.find((each) => each.name === name);
    return {
      devices: devices.map((name) => {
        const what = of(name)?.what ?? '';
        return what === '' ? name : `${name} ${what}`;
      }),
      rows: rows.map(({ devices: places, stepped: { state: after, outcome } }) => ({
        places: devices.map((name) => {
          const device = of(name);
          return device ? sayPosition(device, places[name] ?? 0) : '';
        }),
        headline: sayHeadline(outcome, after.fault),
        kind: outcome.kind,
      })),
    };
  }
}
