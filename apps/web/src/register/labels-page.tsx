// Labels for cabinets: which positions, on which free labels of the sheet.

import { useState } from 'react';
import { Link } from 'react-router';
import { useOutline, usePlant } from '../api/queries.ts';
import { Field } from '../session/field.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice } from '../ui/notice.tsx';
import { Page, SheetPart } from '../ui/page.tsx';

const ON_SHEET = 24;

export function LabelsPage() {
  const { data: outline, error } = useOutline();
  const { data: plant, error: noPlant } = usePlant();
  const [area, setArea] = useState('');
  const [machine, setMachine] = useState('');
  const [skip, setSkip] = useState('0');
  if (!outline || !plant) return <Unanswered error={error ?? noPlant} what="areas and machines" />;
  const machines = outline.areas
    .filter(({ name }) => area === '' || name === area)
    .flatMap((each) => each.machines);
  const query = new URLSearchParams({ ...(area && { area }), ...(machine && { machine }), skip });
  return (
    <Page title="Labels">
      <h1 className="text-2xl font-semibold">Labels for cabinets</h1>
      <p className="mt-1 mb-3 text-soft">
        Tag, duty and a code that opens the position on the phone that reads it. A4 sheets of 3 by 8 labels,
        70 by 37 mm; print without scaling.
      </p>
      <SheetPart name="Which" state={area || 'all areas'}>
        <div className="grid gap-3 md:grid-cols-3">
          <Choice
            below
            label="Area"
            value={area}
            options={[
              { id: '', name: 'all areas' },
              ...outline.areas.map(({ name }) => ({ id: name, name })),
            ]}
            onChange={({ target }) => {
              setArea(target.value);
              setMachine('');
            }}
          />
          <Choice
            below
            label="Machine"
            value={machine}
            options={[{ id: '', name: 'all machines' }, ...machines.map(({ name }) => ({ id: name, name }))]}
            onChange={({ target }) => setMachine(target.value)}
          />
          <Field
            label="Labels of the first sheet that are used up"
            type="number"
            min={0}
            max={ON_SHEET - 1}
            value={skip}
            onChange={({ target }) => setSkip(target.value)}
          />
        </div>
      </SheetPart>
      <SheetPart name="Print" state={plant.address || 'address not told'}>
        {plant.address === '' ? (
          <Notice level="look">
            A label leads to an address, and none is told yet:{' '}
            <Link to="/plant" className="text-plum underline">
              The plant
            </Link>
          </Notice>
        ) : (
          <a
            href={`/api/labels?${query.toString()}`}
            download
            className="inline-flex min-h-11 items-center rounded border border-plum bg-plum px-4 font-medium text-on-plum"
          >
            Save the labels (PDF)
          </a>
        )}
      </SheetPart>
    </Page>
  );
}
