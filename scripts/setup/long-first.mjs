// The order of suites: those that take minutes begin first, so that no processor waits for the last of them. A clean clone has
// no times of an earlier run to go by.

import TestSequencer from '@jest/test-sequencer';

const LONG = [
  'fuzz',
  'kills',
  'breakdowns',
  'interruption',
  'axes',
  'plans-on-units',
  'robustness',
  'outage',
  'writing',
];

export default class LongFirst extends TestSequencer {
  sort(tests) {
    const rank = ({ path }) => {
      const at = LONG.findIndex((name) => new RegExp(`/${name}\\.(database\\.)?spec`).test(path));
      return at < 0 ? LONG.length : at;
    };
    return super.sort(tests).sort((a, b) => rank(a) - rank(b));
  }
}
