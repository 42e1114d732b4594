import type { Watchable } from '@drive-keep/core/live';
import { Nothing } from '../ui/answer.tsx';
import { LIVE_NAMES, liveText } from './live-words.ts';
import type { Sample } from './use-now.ts';

export function LiveValues({ sample, watchable }: { sample: Sample | null; watchable: Watchable }) {
  return (
    <section aria-labelledby="live-values">
      <h2 id="live-values" className="font-semibold">
        Values
      </h2>
      {watchable.signals.length === 0 && (
        <Nothing>This model shows no values in registers that are known.</Nothing>
      )}
      <table className="w-full">
        <tbody>
          {watchable.signals.map((signal) => {
            const { meaning, parameter } = signal;
            const { text, unit } = liveText(signal, sample?.values[parameter.code]);
            return (
              <tr key={meaning} className="border-b border-rule">
                <th scope="row" className="py-1 text-left font-normal">
                  {LIVE_NAMES[meaning]} <span className="font-mono text-sm text-soft">{parameter.code}</span>
                </th>
                <td className="py-1 text-right font-mono text-lg tabular-nums">{text}</td>
                <td className="w-14 py-1 pl-1.5 text-soft">{unit}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
