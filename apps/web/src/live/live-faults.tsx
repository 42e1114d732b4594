import { faultOf, type Dictionary, type Fault } from '@drive-keep/core/dictionary';
import type { Watchable } from '@drive-keep/core/live';
import { bearingOn } from '../models/bearing-on.ts';
import { FaultFacts } from '../models/fault-facts.tsx';
import type { Sample } from './use-now.ts';

/** The active fault with what to look at, and those before it, by the numbers that this model's keypad shows. */
export function LiveFaults({
  sample,
  watchable,
  dictionary,
}: {
  sample: Sample | null;
  watchable: Watchable;
  dictionary: Dictionary;
}) {
  const { fault, history } = watchable;
  if (!fault && history.length === 0) return null;
  const raw = (code: string | undefined) => (code === undefined ? undefined : sample?.values[code]);
  const active = raw(fault?.code);
  const before = history
    .map(({ code }) => raw(code))
    .filter((number) => number !== undefined && number !== 0);
  return (
    <section aria-labelledby="live-faults" className="mt-5">
      <h2 id="live-faults" className="font-semibold">
        Faults
      </h2>
      {active === undefined ? (
        <p className="text-soft">Not known now.</p>
      ) : active === 0 ? (
        <p>No fault is active.</p>
      ) : (
        <div className="mt-1 border-l-4 border-stop bg-stop-wash px-3 py-2">
          <h3 className="text-lg font-semibold">{faultName(dictionary, active)}</h3>
          <Known dictionary={dictionary} fault={faultOf(dictionary, active)} />
        </div>
      )}
      {before.length > 0 && (
        <>
          <h3 className="mt-3 text-sm text-soft">Before that, the newest first</h3>
          <ul>
            {before.map((number = 0, at) => (
              <li key={at} className="border-b border-rule py-1">
                <details>
                  <summary className="cursor-pointer max-lg:min-h-12">
                    {faultName(dictionary, number)}
                  </summary>
                  <Known dictionary={dictionary} fault={faultOf(dictionary, number)} />
                </details>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

function faultName(dictionary: Dictionary, number: number): string {
  const fault = faultOf(dictionary, number);
  return fault ? `${fault.shown} ${fault.name}` : `${number}`;
}

function Known({ dictionary, fault }: { dictionary: Dictionary; fault: Fault | undefined }) {
  if (!fault)
    return (
      <p>The faults of {dictionary.name} that are known do not have this number. Its manual tells more.</p>
    );
  const parameters = bearingOn(dictionary, fault);
  return <FaultFacts dictionary={dictionary.id} fault={fault} parameters={parameters} />;
}
