// Model, rating and region, with what each rating bears; and what was taken in of the model since the draft began.

import type { SettingsDraftView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { RATING_KEY, type DraftSheet, type RatingFit } from '@drive-keep/core/start';
import { useModels } from '../api/queries.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { Notice } from '../ui/notice.tsx';
import { FieldsPart } from './sections.tsx';
import type { Typing } from './use-typing.ts';

const STATES = { fits: '✓', small: '✕ too small', untold: '?' } as const;

export interface Changing {
  readonly change: (wanted: object) => void;
}

export function UnitPart({
  view,
  dictionary,
  sheet,
  typing,
  change,
}: Changing & { view: SettingsDraftView; dictionary: Dictionary; sheet: DraftSheet; typing: Typing }) {
  const { data: models } = useModels();
  const unsized = sheet.faults.find(({ key }) => key === RATING_KEY);
  const rating = sheet.ratings.find(({ id }) => id === sheet.rating);
  return (
    <FieldsPart section="unit" sheet={sheet} typing={typing}>
      {view.newerDictionary !== null && (
        <Notice level="look">
          {view.newerDictionary} was taken in since: this draft stays with {view.dictionary}.{' '}
          {typing.may && (
            <Button
              weight="quiet"
              onClick={() => change({ dictionary: view.newerDictionary, rating: view.rating })}
            >
              Go on with the newer version
            </Button>
          )}
        </Notice>
      )}
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 pb-2">
        <Choice
          label="Model"
          disabled={!typing.may}
          value={view.dictionary}
          options={(models ?? []).map(({ id, maker, name, version }) => ({
            id,
            name: `${maker} ${name}${version > 1 ? `, version ${version}` : ''}`,
          }))}
          onChange={({ target }) => change({ dictionary: target.value, rating: null })}
        />
        <Choice
          label="Region"
          disabled={!typing.may}
          value={view.region}
          options={dictionary.regions.map(({ id, name }) => ({ id, name }))}
          onChange={({ target }) => change({ region: target.value })}
        />
        <Choice
          label="Rating"
          wide
          disabled={!typing.may}
          value={view.rating ?? 'smallest'}
          options={[
            {
              id: 'smallest',
              name: smallest(sheet, view.rating === null ? rating : undefined),
            },
            ...sheet.ratings.map(({ id, name, state }) => ({ id, name: `${id}, ${name} ${STATES[state]}` })),
          ]}
          onChange={({ target }) => change({ rating: target.value === 'smallest' ? null : target.value })}
        />
      </div>
      {unsized && <p className="bg-look-wash px-2 py-1 text-sm font-medium">{unsized.text}</p>}
      {rating && (
        <p className={`pb-1 text-sm ${rating.state === 'small' ? 'bg-stop-wash px-2 py-1' : ''}`}>
          <b className="font-medium">{rating.id}</b>, {rating.name}. {rating.text}
          {noneFits(sheet) && ' No rating of this model bears the motor.'}
        </p>
      )}
    </FieldsPart>
  );
}

const noneFits = ({ ratings }: DraftSheet): boolean =>
  ratings.some(({ state }) => state === 'small') && ratings.every(({ state }) => state !== 'fits');

/** Which rating bears a motor is not known before its current is. */
function smallest(sheet: DraftSheet, rating: RatingFit | undefined): string {
  const words = 'smallest that bears the motor';
  if (!rating) return words;
  if (rating.state === 'untold') return `${words}, once that is told; until then ${rating.name}`;
  return noneFits(sheet) ? `${words}: none, the largest is ${rating.name}` : `${words}: ${rating.name}`;
}
