import type { CheckFindingView, ChecksView } from '@drive-keep/api';

/** Against what the unit was last seen to hold. */
export function Against({ against: { fewer, more } }: { against: NonNullable<ChecksView['against']> }) {
  const list = (name: string, shape: string, findings: readonly CheckFindingView[]) =>
    findings.length > 0 && (
      <ul className="mt-1" aria-label={name}>
        {findings.map(({ identity, text }) => (
          <li key={identity}>
            <span aria-hidden="true" className="mr-2 inline-block w-4 text-center font-bold">
              {shape}
            </span>
            {text}
          </li>
        ))}
      </ul>
    );
  return (
    <div className="mb-3 border-l-4 border-plum px-3 py-1">
      <p className="font-medium">
        {fewer.length === 0 && more.length === 0
          ? 'The checks find the same as in what the unit was last seen to hold.'
          : `Against what the unit was last seen to hold: ${counted(fewer.length, 'fewer')}, ${counted(more.length, 'new')}.`}
      </p>
      {list('No longer found', '−', fewer)}
      {list('New', '+', more)}
    </div>
  );
}

const counted = (count: number, how: string): string =>
  count === 0 ? `none ${how}` : `${count} ${count === 1 ? 'finding' : 'findings'} ${how}`;
