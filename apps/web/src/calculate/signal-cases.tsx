import {
  broken,
  pointAt,
  shareOf,
  SIGNAL_RANGES,
  type SignalPoint,
  type SignalScaling,
} from '@drive-keep/core/signals';
import { shownOf } from './number-field.tsx';

type Arrived = Omit<SignalPoint, 'share' | 'process'>;

interface Case {
  readonly name: string;
  readonly note: string;
  readonly point: (Arrived & { readonly process?: number }) | undefined;
}

/** Failure currents of transmitters by NAMUR NE 43. */
const FAILS = [3.6, 21] as const;

/** What a meter should read where, at the ends of the range, at the set-points, and with a wire broken or shorted. */
export function SignalCases({
  scaling,
  setPoints,
  lost,
}: {
  scaling: SignalScaling;
  setPoints: readonly { readonly name: string; readonly percent: number }[];
  lost: string;
}) {
  const { sent, range, curve, loop, shuntOhm } = scaling;
  const ends = SIGNAL_RANGES[sent];
  return (
    <div className="overflow-x-auto">
      <table className="w-full min-w-[44rem] text-sm">
        <thead className="text-left text-soft">
          <tr>
            <th className="py-1 font-normal">Case</th>
            <th className="text-right font-normal">Measured</th>
            <th className="text-right font-normal">
              {ends.unit === 'mA' ? 'Meter in series' : 'Meter across'}
            </th>
            {ends.unit === 'mA' && (
              <th className="text-right font-normal">
                Meter across {shuntOhm === null ? 'the resistance' : `${shownOf(shuntOhm)} Ω`}
              </th>
            )}
            <th className="text-right font-normal">Drive sees</th>
            {curve && <th className="text-right font-normal">Speed</th>}
            {loop && <th className="text-right font-normal">Actual value</th>}
          </tr>
        </thead>
        <tbody>
          {casesOf(scaling, setPoints, lost).map(({ name, note, point }) => (
            <tr key={name} className="border-t border-rule align-baseline">
              <th scope="row" className="py-1.5 text-left font-medium">
                {name} <span className="font-normal text-soft">{note}</span>
              </th>
              <Cell value={point?.process} unit={range.unit} />
              <Cell value={point?.sent} unit={ends.unit} />
              {ends.unit === 'mA' && <Cell value={point?.shunt} unit="V" />}
              <Cell value={point?.seen} unit="%" />
              {curve && <Cell value={point?.hertz} unit="Hz" />}
              {loop && <Cell value={point?.actual} unit="%" />}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function casesOf(
  scaling: SignalScaling,
  setPoints: readonly { readonly name: string; readonly percent: number }[],
  lost: string,
): readonly Case[] {
  const { sent } = scaling;
  const ends = SIGNAL_RANGES[sent];
  const at = (share: number) => {
    const point = pointAt(scaling, share);
    return point.ok ? point.value : undefined;
  };
  const none = broken(scaling);
  return [
    { name: 'Start of the range', note: '', point: at(0) },
    { name: 'Middle', note: '', point: at(0.5) },
    { name: 'End of the range', note: '', point: at(1) },
    ...setPoints.flatMap(({ name, percent }) => {
      const held = shareOf(scaling, 'actual', percent);
      // One line where the drive reads what is sent.
      if (held.ok && Math.abs(held.value - percent / 100) < 1e-9)
        return [
          {
            name: `At the ${name}`,
            note: `${shownOf(percent)} %, where the loop holds it`,
            point: at(held.value),
          },
        ];
      return [
        {
          name: `At the ${name}`,
          note: `${shownOf(percent)} % of what is measured`,
          point: at(percent / 100),
        },
        {
          ...{
            name: 'Where the loop holds it',
            note: held.ok ? '' : 'never: the actual value does not get there',
          },
          point: held.ok ? at(held.value) : undefined,
        },
      ];
    }),
    ...(sent === '4-20-ma'
      ? FAILS.map((current) => ({
          ...{ name: `Failure at ${current} mA`, note: 'if the transmitter tells it so' },
          point: at((current - ends.low) / (ends.high - ends.low)),
        }))
      : []),
    { name: 'Wire broken, or input shorted', note: lost, point: none.ok ? none.value : undefined },
  ];
}

const Cell = ({ value, unit }: { value: number | null | undefined; unit: string }) => (
  <td className="text-right font-mono">
    {value === null || value === undefined ? (
      <span className="text-soft">–</span>
    ) : (
      <>
        {shownOf(value)} <span className="text-soft">{unit}</span>
      </>
    )}
  </td>
);
