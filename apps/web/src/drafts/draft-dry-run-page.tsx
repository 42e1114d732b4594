// The dry run of a draft: the contacts of its duty, worked on the screen, with the set as it stands.

import type { DryRunView } from '@drive-keep/api';
import { wiringRows } from '@drive-keep/core/wiring';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { useDictionary, useDraft, useVocabulary } from '../api/queries.ts';
import { Run } from '../dry-run/run.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { Page } from '../ui/page.tsx';
import { useQuestion } from './draft-page.tsx';
import { useDraftSheet } from './use-draft-sheet.ts';
import type { SettingsDraftView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';

export function DraftDryRunPage() {
  const { id = '' } = useParams();
  const { data: view, error } = useDraft(id);
  const { data: dictionary, error: noModel } = useDictionary(view?.dictionary);
  const { data: base, error: noBase } = useDictionary(view?.base?.dictionary);
  if (!view || !dictionary || (view.base && !base))
    return <Unanswered error={error ?? noModel ?? noBase} what="this draft" />;
  return (
    <Page title={`Dry run of ${view.name}`}>
      <h1 className="text-2xl font-semibold">
        Dry run of{' '}
        <Link to={`/drafts/${view.id}`} className="text-plum hover:underline">
          {view.name}
        </Link>
      </h1>
      <OfDraft view={view} dictionary={dictionary} base={base} />
    </Page>
  );
}

function OfDraft(props: { view: SettingsDraftView; dictionary: Dictionary; base: Dictionary | undefined }) {
  const { view, dictionary } = props;
  const { data: vocabulary } = useVocabulary();
  const { sheet } = useDraftSheet(useQuestion(props, view.fields));
  const input = useMemo(() => {
    if (!sheet || !vocabulary) return undefined;
    const rows = sheet.wiring.devices.length > 0 ? wiringRows(sheet.wiring) : [];
    const shown: DryRunView = {
      ...{ tag: '', duty: view.name, title: `Draft "${view.name}" as it stands`, at: null, reference: '' },
      ...{
        dictionary: dictionary.id,
        rating: sheet.rating,
        region: view.region,
        readings: [...sheet.readings],
      },
      ...{ wiring: rows, wiringRevision: rows.length > 0 ? 1 : 0 },
    };
    return { view: shown, dictionary, vocabulary };
  }, [sheet, vocabulary, dictionary, view.name, view.region]);
  if (!input) return <p className="mt-4 text-soft">Working it out …</p>;
  return (
    <Run
      input={input}
      parameterTo={(code) => `/models/${dictionary.id}?find=${encodeURIComponent(code)}`}
      noWiring="This draft has no wires: only keys, supply and faults can be tried."
    />
  );
}
