// One parameter of one position through the years, with its peers where one wants them: who changed it, when, why.

import { Unanswered } from '../ui/answer.tsx';
import { findParameter } from '@drive-keep/core/dictionary';
import { showRaw } from '@drive-keep/core/values';
import { Link, useParams, useSearchParams } from 'react-router';
import { useDictionary, useParameterHistories, usePeerGroups, usePosition } from '../api/queries.ts';
import { AddressSwitch } from '../ui/address-inputs.tsx';
import { Page } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { showReading } from '../words/readings.ts';
import { StepLines } from './step-lines.tsx';

export function ParameterPage() {
  const { tag = '', code = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const { data: position, error } = usePosition(tag);
  const { data: dictionary } = useDictionary(position?.unit.dictionary);
  const { data: groups } = usePeerGroups();
  const peers = groups?.find(({ tags }) => tags.includes(tag))?.tags ?? [];
  const withPeers = params.get('peers') === 'yes' && peers.length > 0;
  const histories = useParameterHistories(withPeers ? peers : [tag], code);
  const parameter = dictionary && findParameter(dictionary, code);
  if (!position || !parameter || !histories.data)
    return <Unanswered error={error ?? histories.error} what="the history of this parameter" />;
  const own = histories.data.find((each) => each.tag === tag);
  return (
    <Page title={`${code} of ${tag}`}>
      <h1 className="text-2xl font-semibold">
        <span className="font-mono">{code}</span> {parameter.name}{' '}
        <span className="font-normal text-soft">
          of{' '}
          <Link to={`/positions/${tag}`} className="font-mono text-plum hover:underline">
            {tag}
          </Link>{' '}
          {position.duty}
        </span>
      </h1>
      <p className="mt-1 max-w-3xl">{parameter.description}</p>
      <div className="my-3 flex flex-wrap items-center gap-x-6 gap-y-1 text-sm">
        <Key look="border-ink border-solid">this position</Key>
        <Key look="border-plum border-dashed">what its baseline wants</Key>
        {withPeers && <Key look="border-soft border-solid">{peers.length - 1} peers</Key>}
        {peers.length > 0 && (
          <AddressSwitch
            label={`with the ${peers.length - 1} peers`}
            on={withPeers}
            set={(on) => setParams(on ? { peers: 'yes' } : {}, { replace: true })}
          />
        )}
      </div>
      <StepLines histories={histories.data} parameter={parameter} shown={tag} />
      <h2 className="mt-4 mb-1 font-semibold">Changes seen in backups</h2>
      <ol>
        {[...(own?.steps ?? [])].reverse().map((step) => (
          <li
            key={step.at}
            className="grid grid-cols-[10rem_minmax(8rem,14rem)_1fr] gap-3 border-b border-rule py-1"
          >
            <span className="text-soft">{showTime(step.at)}</span>
            <span className="font-mono">{showReading(parameter, step.reading)}</span>
            <span>{step.by === step.reason ? step.by : `${step.by}: ${step.reason}`}</span>
          </li>
        ))}
      </ol>
      {withPeers && (
        <>
          <h2 className="mt-4 mb-1 font-semibold">Peers now</h2>
          <p className="flex flex-wrap gap-x-5 gap-y-1">
            {histories.data.map((each) => {
              const last = each.steps.at(-1)?.reading;
              return (
                <span key={each.tag}>
                  <Link
                    to={`/positions/${each.tag}/parameters/${encodeURIComponent(code)}?peers=yes`}
                    className="font-mono text-plum hover:underline"
                  >
                    {each.tag}
                  </Link>{' '}
                  {typeof last === 'number' ? showRaw(parameter.form, last) : '? no value'}
                </span>
              );
            })}
          </p>
        </>
      )}
    </Page>
  );
}

function Key({ look, children }: { look: string; children: React.ReactNode }) {
  return (
    <span className="flex items-center gap-2">
      <span aria-hidden="true" className={`w-8 border-t-2 ${look}`} />
      {children}
    </span>
  );
}
