import { LayoutGrid, Rows3 } from 'lucide-react';
import { useOutline } from '../api/queries.ts';
import { AddressField } from '../ui/address-inputs.tsx';
import { Choice } from '../ui/choice.tsx';
import type { Filter, RegisterAddress } from './register-address.ts';

export function RegisterFilters({ address, asTable }: { address: RegisterAddress; asTable: boolean }) {
  const { data: outline } = useOutline();
  const choose = (name: Filter) => ({
    value: address.value(name),
    onChange: ({ target }: { target: HTMLSelectElement }) => address.change({ [name]: target.value }),
  });
  return (
    <div role="group" aria-label="Filter" className="ml-auto flex flex-wrap items-center gap-2">
      <Choice
        label="Area"
        hidden
        {...choose('area')}
        options={[
          { id: '', name: 'all areas' },
          ...(outline?.areas ?? []).map(({ name }) => ({ id: name, name })),
        ]}
      />
      <Choice
        label="Model"
        hidden
        {...choose('model')}
        options={[
          { id: '', name: 'all models' },
          ...(outline?.models ?? []).map(({ model, name }) => ({ id: model, name })),
        ]}
      />
      <Choice
        label="Criticality"
        hidden
        {...choose('criticality')}
        options={[
          { id: '', name: 'any criticality' },
          ...['high', 'middle', 'low'].map((id) => ({ id, name: `${id} criticality` })),
        ]}
      />
      <AddressField
        value={address.value('find')}
        change={(find) => address.change({ find })}
        aria-label="Filter positions"
        placeholder="Tag, duty, serial"
        className="w-36"
      />
      <div role="group" aria-label="Show as" className="flex rounded border border-rule">
        <ShowAs name="Tiles" on={!asTable} press={() => address.change({ as: '', sort: '', backwards: '' })}>
          <LayoutGrid className="size-4" />
        </ShowAs>
        <ShowAs name="Table" on={asTable} press={() => address.change({ as: 'table' })}>
          <Rows3 className="size-4" />
        </ShowAs>
      </div>
    </div>
  );
}

function ShowAs({
  name,
  on,
  press,
  children,
}: {
  name: string;
  on: boolean;
  press: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={name}
      title={name}
      aria-pressed={on}
      onClick={press}
      className={`grid size-9 place-items-center max-lg:size-12 ${on ? 'bg-plum-wash' : 'bg-sheet'}`}
    >
      {children}
    </button>
  );
}
