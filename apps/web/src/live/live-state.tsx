import type { ExpectedView } from '@drive-keep/api';
import { faultOf, type Dictionary } from '@drive-keep/core/dictionary';
import type { Watchable } from '@drive-keep/core/live';
import { showTime } from '../words/dates.ts';
import { liveText } from './live-words.ts';
import type { Sample } from './use-now.ts';

interface Shown {
  readonly sample: Sample | null;
  readonly expected: ExpectedView | null;
  readonly watchable: Watchable;
  readonly dictionary: Dictionary;
}

/** What it does now in large letters, and beside it what its inputs let one expect. */
export function LiveState({ sample, expected, watchable, dictionary }: Shown) {
  return (
    <div className="mt-3 flex flex-wrap items-start gap-x-10 gap-y-3">
      <p className="text-3xl font-semibold" aria-live="polite">
        {sample ? stateText(sample, watchable, dictionary) : '…'}
      </p>
      {sample && (expected ? <Expected expected={expected} /> : <NotExpected />)}
    </div>
  );
}

function stateText({ values, runs, faulty }: Sample, watchable: Watchable, dictionary: Dictionary): string {
  const number = watchable.fault ? (values[watchable.fault.code] ?? 0) : 0;
  if (number !== 0) {
    const fault = faultOf(dictionary, number);
    return fault ? `Fault ${fault.shown}: ${fault.name}` : `Fault ${number}`;
  }
  if (faulty) return 'Fault';
  const signal = watchable.signals.find(({ meaning }) => meaning === 'frequency' || meaning === 'speed');
  const { text, unit } = signal ? liveText(signal, values[signal.parameter.code]) : { text: '', unit: '' };
  if (runs === null) return `${text} ${unit}`.trim();
  return runs ? `Runs, ${text} ${unit}` : 'Stands';
}

function Expected({ expected: { by, agrees, outcomes } }: { expected: ExpectedView }) {
  const [likeliest] = outcomes;
  const odd = agrees === false;
  return (
    <div className={`max-w-xl border-l-4 px-3 ${odd ? 'border-look bg-look-wash py-1' : 'border-rule'}`}>
      {odd && <p className="font-semibold">That is not what its inputs ask for.</p>}
      <p>
        {likeliest ? (
          <>
            By its inputs, wiring and settings: <b>{likeliest.headline}</b>
            {odd ? '.' : agrees === null ? '; whether it does, no register tells.' : ', as it does.'}
          </>
        ) : (
          'Its inputs are in no register that can be read: what it should do cannot be told.'
        )}
      </p>
      {likeliest && likeliest.reasons.length > 0 && (
        <p className="text-sm text-soft">{likeliest.reasons.join('. ')}.</p>
      )}
      <p className="text-sm text-soft">
        By {by.title.charAt(0).toLowerCase() + by.title.slice(1)}
        {by.at && ` of ${showTime(by.at)}`}
        {by.wiringRevision === 0 ? '; no wiring is kept' : ` and revision ${by.wiringRevision} of the wiring`}
        .
      </p>
    </div>
  );
}

const NotExpected = () => (
  <p className="max-w-md text-sm text-soft">
    What it should do by its inputs is told by a backup of this unit that can be read: none has been had yet.
  </p>
);
