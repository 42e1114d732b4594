// What the maker knows of a fault: what it means, what causes it, what to look at, and the parameters that bear on it.

import type { Fault } from '@drive-keep/core/dictionary';
import { Link } from 'react-router';

export function FaultFacts({
  dictionary,
  fault,
  parameters,
}: {
  dictionary: string;
  fault: Fault;
  parameters: readonly { readonly code: string; readonly name: string }[];
}) {
  return (
    <div className="max-w-prose">
      <p>{fault.meaning}</p>
      <div className="mt-1 grid gap-x-6 sm:grid-cols-2">
        <Points heading="Likely causes" points={fault.causes} />
        <Points heading="What to check" points={fault.check} />
      </div>
      {parameters.length > 0 && (
        <p className="mt-1">
          <span className="text-sm text-soft">Parameters that bear on it: </span>
          {parameters.map(({ code, name }, at) => (
            <span key={code}>
              {at > 0 && ', '}
              <Link
                to={`/models/${dictionary}?find=${encodeURIComponent(code)}`}
                className="whitespace-nowrap text-plum underline"
              >
                <b className="font-mono">{code}</b> {name}
              </Link>
            </span>
          ))}
        </p>
      )}
      <p className="mt-1 text-sm text-soft">
        {fault.restarts
          ? 'The drive may start again by itself after it, where its settings say so.'
          : 'The drive never starts again by itself after it.'}
      </p>
    </div>
  );
}

const Points = ({ heading, points }: { heading: string; points: readonly string[] }) => (
  <div>
    <h4 className="text-sm text-soft">{heading}</h4>
    <ul className="list-disc pl-5">
      {points.map((point) => (
        <li key={point}>{point}</li>
      ))}
    </ul>
  </div>
);
