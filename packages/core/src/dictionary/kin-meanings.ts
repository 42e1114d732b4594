// Meanings that ask the same of a drive but count it another way: gain and proportional band, hertz and percent. They are
// not equal and never compared as equal; somebody who looks one up wants to see the other.

/** Families of meanings; `*` stands for a number, as in `preset.3`. */
const FAMILIES: readonly (readonly string[])[] = [
  ['loop.gain', 'loop.bandWidth'],
  ['loop.integralTime', 'loop.integralGain'],
  ['loop.derivativeTime', 'loop.derivativeGain'],
  ['loop.setpoint', 'loop.setpointUnit'],
  ['limit.currentMotoring', 'limit.currentUnit', 'limit.currentMotor', 'limit.currentAmpere'],
  ['protect.overloadCurrent', 'protect.overloadUnit', 'protect.overloadMotor'],
  ['frequency.minimum', 'share.minimum', 'speed.minimum'],
  ['frequency.maximum', 'share.maximum', 'speed.maximum'],
  ['preset.*', 'preset.share.*', 'preset.speed.*'],
  ['jog.speed', 'jog.share', 'jog.rpm'],
  ['skip.*', 'skip.share.*', 'skip.speed.*', 'skip.from.*'],
  ['speed.keypad', 'speed.keypadShare', 'speed.keypadRpm'],
  ['motor.slipCompensation', 'motor.slipFrequency'],
  ['motor.poles', 'motor.polePairs'],
  ['raise.rate', 'raise.rateShare', 'raise.rateRpm'],
  ['output.level', 'output.levelShare', 'output.levelRpm'],
  ['analog.*.high', 'analog.*.gain', 'analog.*.pointHigh.speed'],
  ['analog.*.low', 'analog.*.bias', 'analog.*.pointLow.speed'],
  ['stop.mode', 'unit.optionsWord'],
];

/** The other ways to count what this meaning asks for, without the meaning itself. */
export function kinOf(meaning: string): readonly string[] {
  for (const family of FAMILIES) {
    for (const pattern of family) {
      const number = numberIn(pattern, meaning);
      if (number === undefined) continue;
      return family.filter((each) => each !== pattern).map((each) => each.replace('*', number));
    }
  }
  return [];
}

/** The number that stands for `*`, empty where the pattern has none; nothing where it does not fit. */
function numberIn(pattern: string, meaning: string): string | undefined {
  const [before = '', after] = pattern.split('*');
  if (after === undefined) return pattern === meaning ? '' : undefined;
  const middle = meaning.slice(before.length, meaning.length - after.length);
  return meaning === `${before}${middle}${after}` && /^\d+$/.test(middle) ? middle : undefined;
}
