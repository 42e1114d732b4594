// The motor library: what backups tell of motors and the library does not know like this, then all plates with how many
// positions have them.

import type { MotorView } from '@drive-keep/api';
import { Unanswered } from '../ui/answer.tsx';
import { Link, useSearchParams } from 'react-router';
import { useArrivals, useMotors, useSession } from '../api/queries.ts';
import { AddressField } from '../ui/address-inputs.tsx';
import { Page } from '../ui/page.tsx';
import { Arrivals } from './arrivals.tsx';

export function MotorsPage() {
  const [params, setParams] = useSearchParams();
  const { data: motors, error } = useMotors();
  const { data: arrivals, error: noArrivals } = useArrivals();
  const { data: session } = useSession();
  const find = params.get('find') ?? '';
  if (!motors) return <Unanswered error={error} what="the motors" />;
  const words = find
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  const shown = motors.filter(({ name, line, positions }) =>
    words.every((word) => `${name} ${line} ${positions.join(' ')}`.toLowerCase().includes(word)),
  );
  const mayChange = session?.role !== 'viewer';
  return (
    <Page title="Motors">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <h1 className="text-2xl font-semibold">Motors</h1>
        <AddressField
          value={find}
          change={(text) => setParams(text === '' ? {} : { find: text }, { replace: true })}
          aria-label="Filter motors"
          placeholder="Name, number, tag"
          className="w-56"
        />
        <span className="text-sm text-soft">{motors.length} in the library</span>
        {mayChange && (
          <Link
            to="/motors/new"
            className="ml-auto inline-flex min-h-9 items-center rounded border border-rule bg-sheet px-3 text-sm font-medium hover:border-plum max-lg:min-h-12"
          >
            Add a motor
          </Link>
        )}
      </div>
      {!arrivals && <Unanswered error={noArrivals} what="what backups tell of motors" />}
      {arrivals && arrivals.length > 0 && (
        <Arrivals arrivals={arrivals} motors={motors} mayChange={mayChange} />
      )}
      <table className="mt-5 w-full">
        <thead>
          <tr className="border-b border-rule text-left text-sm text-soft">
            <th className="py-1 font-normal">Motor</th>
            <th className="font-normal">Plate</th>
            <th className="font-normal">Winding</th>
            <th className="font-normal">Positions</th>
          </tr>
        </thead>
        <tbody>
          {shown.map((motor) => (
            <MotorRow key={motor.id} motor={motor} />
          ))}
        </tbody>
      </table>
      {shown.length === 0 && (
        <p className="py-4 text-soft">
          {motors.length === 0
            ? 'No motors yet. Add the first, or take one in from a backup.'
            : `No motor has “${find}” in it.`}
        </p>
      )}
    </Page>
  );
}

function MotorRow({ motor }: { motor: MotorView }) {
  const { text, positions, twins } = motor;
  const more = text.ratings.length > 1 ? ` and ${text.ratings.length - 1} more` : '';
  return (
    <tr className="border-b border-rule align-top" data-motor={motor.name}>
      <td className="py-1.5 pr-4">
        <Link to={`/motors/${motor.id}`} className="font-semibold text-plum hover:underline">
          {motor.name}
        </Link>
        {twins.length > 0 && (
          <span className="block text-sm">
            <span aria-hidden="true">◆</span> same numbers as {twins.join(', ')}
          </span>
        )}
      </td>
      <td className="py-1.5 pr-4">
        {motor.line}
        <span className="text-soft">{more}</span>
      </td>
      <td className="py-1.5 pr-4 font-mono text-sm">{text.motor['resistance'] ?? '–'}</td>
      <td className="py-1.5">
        {positions.length === 0 ? (
          <span className="text-soft">none</span>
        ) : (
          <span title={positions.join(', ')}>
            {positions.length}{' '}
            <span className="font-mono text-sm text-soft">
              {positions.slice(0, 3).join(', ')}
              {positions.length > 3 && ' …'}
            </span>
          </span>
        )}
      </td>
    </tr>
  );
}
