// To which supply and cabinet a position belongs, on its record.

import type { PositionSiteView } from '@drive-keep/api';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { forPeople } from '@drive-keep/core/values';
import { Link } from 'react-router';
import { put, type ProblemError } from '../api/client.ts';
import { usePositionSite, useSite } from '../api/queries.ts';
import { Unanswered } from '../ui/answer.tsx';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { SheetPart } from '../ui/page.tsx';

export function PositionSite({ tag, mayChange }: { tag: string; mayChange: boolean }) {
  const { data: site, error } = useSite();
  const { data: own, error: ownError } = usePositionSite(tag);
  const queries = useQueryClient();
  const place = useMutation<
    PositionSiteView,
    ProblemError,
    { supply: string | null; cabinet: string | null }
  >({
    mutationFn: (wish) => put(`positions/${tag}/site`, wish),
    onSuccess: async (placed) => {
      queries.setQueryData([`positions/${tag}/site`], placed);
      await queries.invalidateQueries({ queryKey: ['site'] });
    },
  });
  if (!site || !own)
    return (
      <SheetPart name="Supply and cabinet" state="">
        <Unanswered error={error ?? ownError} what="supplies and cabinets" />
      </SheetPart>
    );
  const { supply, cabinet } = own;
  const [newest] = supply?.measurements ?? [];
  const choose = (change: Partial<{ supply: string; cabinet: string }>) => {
    const wish = { supply: supply?.id ?? '', cabinet: cabinet?.id ?? '', ...change };
    place.mutate({ supply: wish.supply || null, cabinet: wish.cabinet || null });
  };
  return (
    <SheetPart name="Supply and cabinet" state={supply && cabinet ? 'both told' : 'not all told'}>
      <div className="flex flex-wrap items-center gap-3">
        {mayChange ? (
          <>
            <Choice
              label="Supply"
              value={supply?.id ?? ''}
              onChange={({ target }) => choose({ supply: target.value })}
              options={[{ id: '', name: 'not told' }, ...site.supplies]}
            />
            <Choice
              label="Cabinet"
              value={cabinet?.id ?? ''}
              onChange={({ target }) => choose({ cabinet: target.value })}
              options={[{ id: '', name: 'not told' }, ...site.cabinets]}
            />
          </>
        ) : (
          <span>
            {supply?.name ?? 'supply not told'}, {cabinet?.name ?? 'cabinet not told'}
          </span>
        )}
        <span className="text-soft">
          {supply &&
            `${supply.nominalVolts} V nominal, ${newest ? `${forPeople(newest.volts.toFixed(1))} V measured` : 'not measured'}`}
          {supply && cabinet && ' · '}
          {cabinet && (cabinet.ambient === null ? 'temperature not told' : `up to ${cabinet.ambient} °C`)}
        </span>
        <Link to="/site" className="text-plum hover:underline">
          Supplies and cabinets
        </Link>
      </div>
      {place.error && <ProblemNotice error={place.error} />}
    </SheetPart>
  );
}
