import type { FitItem, FitState, FitSubject } from '@drive-keep/core/replace';
import { Choice } from '../ui/choice.tsx';
import { SheetPart } from '../ui/page.tsx';
import type { SuccessorAnswer } from './successor-answer.ts';

const STATES: Readonly<Record<FitState, { readonly shape: string; readonly text: string }>> = {
  good: { shape: '✓', text: 'fits' },
  change: { shape: '△', text: 'fits with changes' },
  ask: { shape: '?', text: 'to be looked at' },
  bad: { shape: '✕', text: 'does not fit' },
};

const SUBJECTS: Readonly<Record<FitSubject, string>> = {
  current: 'Current of the motor',
  inputs: 'Inputs',
  relays: 'Relays',
  outputs: 'Transistor outputs',
  signals: 'Analog signals',
  'safe-inputs': 'Safe torque off',
  line: 'Line',
  logic: 'Side of the contacts',
  size: 'Room (width, height, depth)',
  fuse: 'Fuse',
  resistor: 'Braking resistor',
  filter: 'Mains filter',
};

export function FitPart({ answer, choose }: { answer: SuccessorAnswer; choose: (rating: string) => void }) {
  const { ratings, rating, fit } = answer;
  const state = ratings.find(({ id }) => id === rating)?.state ?? 'ask';
  return (
    <SheetPart name="Fit" state={STATES[state].text}>
      <Choice
        label="Rating"
        value={rating}
        options={ratings.map((each) => ({
          id: each.id,
          name: `${STATES[each.state].shape} ${each.id} (${each.name}), ${STATES[each.state].text}`,
        }))}
        onChange={({ target }) => choose(target.value)}
      />
      <table className="mt-3 w-full text-left text-sm">
        <thead className="border-b border-rule text-soft">
          <tr>
            <th className="py-1 pr-4 font-normal">What</th>
            <th className="py-1 pr-4 font-normal">Old unit, or what it needs</th>
            <th className="py-1 pr-4 font-normal">Successor</th>
            <th className="py-1 font-normal">Fits</th>
          </tr>
        </thead>
        <tbody>
          {fit.map((item) => (
            <FitRow key={item.what} item={item} />
          ))}
        </tbody>
      </table>
    </SheetPart>
  );
}

function FitRow({ item: { what, needs, gives, state } }: { item: FitItem }) {
  return (
    <tr className={`border-b border-rule ${state === 'bad' ? 'bg-stop-wash' : ''}`}>
      <td className="py-1 pr-4">{SUBJECTS[what]}</td>
      <td className="py-1 pr-4">{needs}</td>
      <td className="py-1 pr-4">{gives}</td>
      <td className="py-1">
        <span aria-hidden="true">{STATES[state].shape}</span> {STATES[state].text}
      </td>
    </tr>
  );
}
