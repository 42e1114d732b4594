// What the draft begins with: a starting point with what it assumes, the set of a position, or nothing but the defaults.

import type { SettingsDraftView, StartingPointView } from '@drive-keep/api';
import type { DraftSheet } from '@drive-keep/core/start';
import { useState } from 'react';
import { useStartingPoints } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice } from '../ui/notice.tsx';
import { PositionField } from '../ui/position-field.tsx';
import { FieldsPart } from './sections.tsx';
import type { Typing } from './use-typing.ts';

export function DutyPart({
  view,
  sheet,
  typing,
  change,
}: {
  view: SettingsDraftView;
  sheet: DraftSheet;
  typing: Typing;
  change: (wanted: object) => void;
}) {
  const { data: points } = useStartingPoints();
  const now = points?.find(({ id }) => id === view.point?.id);
  const [as, setAs] = useState('');
  return (
    <FieldsPart section="duty" sheet={sheet} typing={typing}>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2 pb-1">
        <Choice
          label="Begins with"
          wide
          disabled={!typing.may}
          value={view.point ? `point ${view.point.id}` : view.base ? 'base' : 'delivered'}
          options={[
            ...(points ?? []).map(({ id, name }) => ({ id: `point ${id}`, name })),
            { id: 'delivered', name: 'nothing but the defaults' },
            ...(view.base ? [{ id: 'base', name: `as ${view.base.title}` }] : []),
          ]}
          onChange={({ target }) => {
            const [kind, id] = target.value.split(' ');
            if (kind === 'point') change({ begins: { kind: 'point', id } });
            if (kind === 'delivered') change({ begins: { kind: 'delivered' } });
          }}
        />
        {typing.may && (
          <span className="flex items-center gap-2">
            <PositionField label="or as" tag={as} choose={setAs} />
            {as !== '' && (
              <>
                {(['newest', 'baseline'] as const).map((reference) => (
                  <Button
                    key={reference}
                    onClick={() => {
                      change({ begins: { kind: 'position', tag: as, reference } });
                      setAs('');
                    }}
                  >
                    its {reference === 'newest' ? 'newest backup' : 'baseline'}
                  </Button>
                ))}
              </>
            )}
          </span>
        )}
      </div>
      {view.point?.isOlder && now && (
        <Notice level="look">
          This starting point was changed since: the draft stays with the one that it began with.{' '}
          {typing.may && (
            <Button weight="quiet" onClick={() => change({ begins: { kind: 'point', id: now.id } })}>
              Take it as it is now
            </Button>
          )}
        </Notice>
      )}
      {now && <Assumes point={now} />}
      {view.base && (
        <p className="text-sm text-soft">
          A {view.base.dictionary} of {view.base.rating}, {view.base.region}. What belongs to that one unit
          (its address, its lock, what it measured on its motor) stays there.
        </p>
      )}
      <Carried sheet={sheet} />
    </FieldsPart>
  );
}

function Assumes({ point: { about, assumes } }: { point: StartingPointView }) {
  return (
    <>
      <p className="text-sm">{about}</p>
      <ul className="list-disc pb-1 pl-5 text-sm text-soft">
        {assumes.map((text) => (
          <li key={text}>{text}</li>
        ))}
      </ul>
    </>
  );
}

/** What becomes of the settings of another model or size on the way. */
function Carried({ sheet: { carried } }: { sheet: DraftSheet }) {
  if (carried.length === 0) return null;
  const open = carried.filter((each) => each.open).length;
  return (
    <details className="text-sm" open={open > 0}>
      <summary className="cursor-pointer py-1 max-lg:min-h-12">
        What changes on the way{' '}
        <span className="text-soft">
          {carried.length}, {open} to be looked at
        </span>
      </summary>
      <table className="w-full text-left">
        <tbody>
          {carried.map(({ code, name, value, now, why, open: isOpen }) => (
            <tr key={code} className={`border-b border-rule align-top ${isOpen ? 'bg-look-wash' : ''}`}>
              <td className="w-16 py-1 pr-2 font-mono">{code}</td>
              <td className="py-1 pr-3">
                {name}: <b className="font-medium">{value}</b> →{' '}
                <b className="font-medium">{now === '' ? 'nothing' : now}</b>
                <span className="block text-xs text-soft">{why}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
