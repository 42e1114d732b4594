// The kind of an analog output against the meter, or the input of a controller, that hangs on it.

import { terminalsOf } from '../../dictionary/index.ts';
import { said } from '../../findings/index.ts';
import type { Check } from '../check.ts';

const SAID: Readonly<Record<string, string>> = {
  '0-10-v': '0 to 10 V',
  '0-20-ma': '0 to 20 mA',
  '4-20-ma': '4 to 20 mA',
};

export const meterSignal: Check = {
  id: 'meter-signal',
  look(look) {
    const { machine } = look.ground;
    const outputs = terminalsOf(machine.chart).filter(({ kind }) => kind === 'analog-output');
    for (const [at, output] of outputs.entries()) {
      const meter = look.reach.meterAt(output.id);
      if (!meter) continue;
      look.sees();
      const name = at === 0 ? 'analogOutput.signal' : `analogOutput.signal${at + 1}`;
      const own = look.plain(name);
      const gives = own.kind === 'choice' ? own.option : fromText(output.signal);
      if (gives === undefined) {
        look.untold.add(`the kind of signal at ${output.id}`);
        continue;
      }
      if (gives === meter.signal) continue;
      look.find(
        said('meter-signal', {
          device: meter.name,
          reads: SAID[meter.signal] ?? meter.signal,
          terminal: output.id,
          gives: SAID[gives] ?? gives,
        }),
        { at: output.id, attention: 'stop', of: [own], mends: [{ [name]: meter.signal }] },
      );
    }
  },
};

/** Where no setting chooses it the chart says it. */
const fromText = (signal: string): string | undefined =>
  signal.includes(' or ') ? undefined : Object.entries(SAID).find(([, text]) => signal.startsWith(text))?.[0];
