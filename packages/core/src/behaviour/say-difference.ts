// A difference of behaviour as one sentence: what was done, and what each of both does then.

import type { Difference, Sameness } from './same-behaviour.ts';
import { faultText, sayConductor, sayEvent, sayHeadline, sayPosition, type Speaker } from './say-outcome.ts';
import type { Event, State } from './state.ts';
import type { Stepped } from './step.ts';

/** Devices that are not as they rest, and broken wires, as one would say it: `with S2 at 2, S1 pressed`. */
function sayStanding({ devices, broken }: State, speaker: Speaker): string {
  const standing = speaker.machine.wiring.devices.flatMap((device) => {
    const to = devices[device.name];
    return to === undefined ? [] : [`${device.name} ${sayPosition(device, to)}`];
  });
  return [...standing, ...broken.map((what) => `${sayConductor(what, speaker)} broken`)].join(', ');
}

const LASTING: readonly Event['kind'][] = ['supply', 'key', 'fault', 'break', 'mend'];

/** `With S2 at 1: runs forward at 9.0 Hz instead of 12.0 Hz`. `a` is before, `b` is now. */
export function sayDifference({ events, a, b, aspect }: Difference, speaker: Speaker): string {
  const standing = sayStanding(b.state, speaker);
  // The supply came once in any case.
  const first = events.findIndex(({ kind }) => kind === 'supply');
  const past = events
    .filter((_, at) => at !== first)
    .filter(({ kind }) => LASTING.includes(kind))
    // What is broken still was said.
    .filter((event) => event.kind !== 'break' || !b.state.broken.includes(event.what))
    .map((event) => sayEvent(event, speaker));
  const begun = [
    standing === '' ? '' : `With ${standing}`,
    past.length === 0 ? '' : `after ${past.join(', ').toLowerCase()}`,
  ];
  const when = begun.filter((each) => each !== '').join(', ');
  return `${when === '' ? 'As it rests' : `${when.charAt(0).toUpperCase()}${when.slice(1)}`}: ${insteadOf(a, b, aspect)}`;
}

function insteadOf(a: Stepped, b: Stepped, aspect: Difference['aspect']): string {
  const [before, now] = [a, b].map(({ outcome, state }) => sayHeadline(outcome, state.fault));
  const lower = (text = '') => text.charAt(0).toLowerCase() + text.slice(1);
  switch (aspect) {
    case 'speed': {
      const [from, to] = [a, b].map(({ outcome }) => outcome.setPoint?.hertz);
      if (typeof from === 'number' && typeof to === 'number')
        return `${lower(now)} instead of ${from.toFixed(1)} Hz`;
      return `${lower(now)} instead of: ${lower(before)}`;
    }
    case 'stops':
      return `stops by ${wayText(b)} instead of ${wayText(a)}`;
    case 'ramps':
      return `the ${b.outcome.ramps} ramps hold instead of the ${a.outcome.ramps}`;
    case 'outputs':
      return `another output is on: ${outputsText(b)} instead of ${outputsText(a)}`;
    case 'untold':
      return a.outcome.kind === 'untold' && b.outcome.kind === 'untold'
        ? 'cannot be told of either'
        : `cannot be told ${b.outcome.kind === 'untold' ? 'now' : 'of before'}`;
    default:
      return `${lower(now)} instead of: ${lower(before)}`;
  }
}

const wayText = ({ outcome }: Stepped): string =>
  ({
    coast: 'coasting',
    ramp: 'the ramp',
    'ramp-dc': 'the ramp and DC',
    'quick-stop': 'a quick stop',
    'torque-off': 'torque off',
  })[outcome.stops ?? 'ramp'];

function outputsText({ outcome, state }: Stepped): string {
  const on = Object.entries(outcome.outputs).flatMap(([number, is]) =>
    is === true ? [`output ${number}`] : [],
  );
  const fault = state.fault === null ? '' : ` (${faultText(state.fault)})`;
  return `${on.length === 0 ? 'none' : on.join(', ')}${fault}`;
}

/** What the whole of it comes to. */
export function saySameness(sameness: Sameness): string {
  const { same, pairs, events, unfinished, untold, differences } = sameness;
  const looked = `${pairs} pairs of states under ${events} kinds of events`;
  if (same) return `The same in all ${looked}.`;
  const open = untold > 0 ? ` ${untold} steps cannot be told of either.` : '';
  const rest = `${open}${unfinished ? ' The rest was not looked at.' : ''}`;
  if (differences.length === 0) return `No difference in ${looked}.${rest}`;
  return `Not the same: ${differences.length === 1 ? 'one difference' : `${differences.length} differences`} in ${looked}.${rest}`;
}
