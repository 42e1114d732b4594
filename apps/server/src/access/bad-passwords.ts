// Passwords that are guessed first: common words and rows of keys, however they are dressed up with digits and signs, and the
// names of the person and the plant. Length does the rest (NIST SP 800-63B, section 5.1.1.2).

export const LEAST_PASSWORD = 10;

/** Words that stand at the top of lists of stolen passwords, and those of this trade. */
const COMMON = new Set(
  `password passwort passphrase letmein welcome admin administrator root toor login master default changeme changeit
  secret secure qwerty qwertyuiop qwertz qwertzuiop asdfgh asdfghjkl zxcvbn zxcvbnm yxcvbnm abcdef abcdefgh
  abcdefghij iloveyou sunshine princess dragon monkey football baseball superman batman trustno shadow michael
  jordan hunter buster soccer hockey killer charlie thomas summer winter spring autumn monday january december
  computer internet access system server service maintenance engineer technician operator viewer supervisor
  drivekeep drive motor inverter factory plant machine production workshop electric company test testing temp
  temporary guest public private hello freedom whatever ninja mustang flower cheese banana orange pepper`
    .split(/\s+/)
    .filter(Boolean),
);

/** How letters are commonly dressed up. */
const DRESSED: Readonly<Record<string, string>> = {
  '0': 'o',
  '1': 'l',
  '3': 'e',
  '4': 'a',
  '5': 's',
  '7': 't',
  '8': 'b',
  '@': 'a',
  $: 's',
  '!': 'i',
  '€': 'e',
};

/** What is wrong with it, in words; nothing where it may be used. `names` are those of the person and the plant. */
export function badPassword(password: string, names: readonly string[]): string | undefined {
  if (password.length < LEAST_PASSWORD) return `A password has at least ${LEAST_PASSWORD} characters.`;
  const lower = password.toLowerCase();
  if (new Set(lower).size < 5) return 'This password repeats a few characters. Choose another one.';
  if (isRow(lower)) return 'This password is a row of neighbours. Choose another one.';
  if (words(lower).some((word) => COMMON.has(word)))
    return 'This password is one of those that are guessed first. Choose another one, such as four words of your own.';
  const own = names
    .flatMap((name) => name.toLowerCase().split(/[^\p{L}\p{N}]+/u))
    .filter((part) => part.length > 3);
  if (own.some((part) => bare(lower).includes(part) && bare(lower).length < part.length + 5))
    return 'This password is hardly more than a name. Choose another one.';
  return undefined;
}

/** What is left without digits and signs, as it stands and undressed. */
function words(lower: string): readonly string[] {
  const undressed = [...lower].map((letter) => DRESSED[letter] ?? letter).join('');
  const core = lower.replace(/^[^\p{L}]+|[^\p{L}]+$/gu, '');
  const dressedCore = [...core].map((letter) => DRESSED[letter] ?? letter).join('');
  return [bare(lower), bare(undressed), bare(dressedCore)].flatMap((word) => [word, halfOf(word)]);
}

const bare = (text: string): string => text.replace(/[^\p{L}]/gu, '');

/** A word that is written twice is that word. */
const halfOf = (word: string): string =>
  word.length % 2 === 0 && word.slice(0, word.length / 2) === word.slice(word.length / 2)
    ? word.slice(0, word.length / 2)
    : word;

/** Each character follows the one before by the same small step, as 1234567890 and abcdefghij do. */
function isRow(text: string): boolean {
  const steps = [...text].slice(1).map((letter, at) => letter.charCodeAt(0) - text.charCodeAt(at));
  const usual = steps.filter((step) => Math.abs(step) === 1).length;
  return usual >= steps.length - 1;
}
