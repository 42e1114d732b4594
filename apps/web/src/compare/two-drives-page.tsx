// Two drives side by side by what their parameters mean, also where they are of different makers.

import { useSearchParams } from 'react-router';
import { Page } from '../ui/page.tsx';
import { PositionField } from '../ui/position-field.tsx';
import { changed } from '../dry-run/changed-address.ts';
import { AcrossComparison } from './across-comparison.tsx';
import { CompareHead } from './compare-head.tsx';

export function TwoDrivesPage() {
  const [params, setParams] = useSearchParams();
  const [a, b] = [params.get('a') ?? '', params.get('b') ?? ''];
  const change = (key: string, value: string) =>
    setParams((before) => changed(before, key, value), { replace: true });
  return (
    <Page title="Compare two drives">
      <CompareHead>
        <PositionField label="A" tag={a} choose={(tag) => change('a', tag)} />
        <PositionField label="B" tag={b} choose={(tag) => change('b', tag)} />
      </CompareHead>
      {a !== '' && b !== '' ? (
        <AcrossComparison a={{ tag: a }} b={{ tag: b }} />
      ) : (
        <p className="mt-6 text-soft">
          Choose two drives. They may be of different models: values are compared by what they mean, in
          seconds, hertz, amperes and kilowatts.
        </p>
      )}
    </Page>
  );
}
