import { describe, expect, it } from '@jest/globals';
import { badPassword } from './bad-passwords.ts';

const NAMES = ['T. Pellow', 'technician', 'Fennimoor Tileworks'];

describe('a password', () => {
  it.each([
    ['short', /at least 10/],
    ['aaaaaaaaaaaa', /repeats/],
    ['ababababab', /repeats/],
    ['1234567890', /neighbours/],
    ['abcdefghijkl', /neighbours/],
    ['9876543210', /neighbours/],
    ['Password2026!', /guessed first/],
    ['p@ssw0rd1234', /guessed first/],
    ['qwertyuiop1', /guessed first/],
    ['DriveKeep2026', /guessed first/],
    ['passwordpassword', /guessed first/],
    ['Fennimoor-1', /hardly more than a name/],
    ['pellow-20265', /hardly more than a name/],
  ])('%s is refused', (password, why) => {
    expect(badPassword(password, NAMES)).toMatch(why);
  });

  it.each([
    'roller-table',
    'glaze-and-fire',
    'look-only-1',
    'four words of mine',
    'tr0ub4dor&3xyz',
    'Ünïcödé-Wörter',
  ])('%s is taken', (password) => {
    expect(badPassword(password, NAMES)).toBeUndefined();
  });
});
