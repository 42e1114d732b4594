// Drives of the same duty side by side: agreement folded away, the odd one out marked by how rare its value is.

import type { PeerRowView, PeersView } from '@drive-keep/api';
import {
  findParameter,
  PURPOSES,
  type Dictionary,
  type Parameter,
  type Purpose,
} from '@drive-keep/core/dictionary';
import { Link, useSearchParams } from 'react-router';
import { useDictionary, usePeerGroups, usePeers } from '../api/queries.ts';
import { Choice } from '../ui/choice.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { Page } from '../ui/page.tsx';
import { CompareHead } from './compare-head.tsx';
import { showReading } from '../words/readings.ts';
import { PURPOSE_NAMES } from '../words/purposes.ts';

export function PeersPage() {
  const [params, setParams] = useSearchParams();
  const { data: groups = [] } = usePeerGroups();
  const tags = params.get('positions') ?? groups[0]?.tags.join(',') ?? '';
  const { data: peers, error } = usePeers(tags);
  const { data: dictionary } = useDictionary(peers?.dictionary);
  const chosen = groups.find((group) => group.tags.join(',') === tags);
  return (
    <Page title="Compare">
      <CompareHead>
        <Choice
          label="Drives of the same duty"
          value={chosen?.name ?? ''}
          onChange={({ target }) => {
            const group = groups.find(({ name }) => name === target.value);
            if (group) setParams({ positions: group.tags.join(',') });
          }}
          options={[
            ...(chosen ? [] : [{ id: '', name: 'your own choice' }]),
            ...groups.map(({ name }) => ({ id: name, name })),
          ]}
        />
        {peers && (
          <span className="text-sm text-soft">
            {peers.rows.length} parameters on which they do not all agree, {peers.agreed} on which they do,{' '}
            {peers.leftOut} left out
          </span>
        )}
      </CompareHead>
      {error && (
        <div className="mt-3">
          <ProblemNotice error={error} />
        </div>
      )}
      {peers && peers.withoutBackup.length > 0 && (
        <p className="mt-2 text-sm">Without a backup: {peers.withoutBackup.join(', ')}.</p>
      )}
      {peers && dictionary && <PeerTable peers={peers} dictionary={dictionary} />}
    </Page>
  );
}

function PeerTable({ peers, dictionary }: { peers: PeersView; dictionary: Dictionary }) {
  const lines = peers.rows.flatMap((row) => {
    const parameter = findParameter(dictionary, row.code);
    return parameter ? [{ row, parameter }] : [];
  });
  const ofPurpose = (purpose: Purpose) => lines.filter(({ parameter }) => parameter.purpose === purpose);
  const purposes = PURPOSES.filter((purpose) => ofPurpose(purpose).length > 0);
  if (purposes.length === 0) return <p className="mt-6 text-soft">They agree on everything.</p>;
  const counts = peers.columns.map((_, at) => peers.rows.filter(({ odd }) => odd.includes(at)).length);
  return (
    <div className="mt-4 overflow-auto" tabIndex={0} aria-label="Peers side by side">
      <table className="border-separate border-spacing-0 text-sm">
        <thead>
          <tr>
            <th className="sticky left-0 z-10 bg-ground text-left font-normal text-soft">Parameter</th>
            <th className="px-3 text-left font-normal text-soft">Most hold</th>
            {peers.columns.map(({ tag, duty }, at) => (
              <th key={tag} className="px-2 pb-1 text-left align-bottom" title={duty}>
                <Link to={`/positions/${tag}`} className="font-mono whitespace-nowrap hover:underline">
                  {tag}
                </Link>
                <span className={`block text-xs ${counts[at] ? 'font-semibold' : 'font-normal text-soft'}`}>
                  {counts[at] ? `◆ ${counts[at]} odd` : '✓'}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        {purposes.map((purpose) => (
          <tbody key={purpose}>
            <tr>
              <th colSpan={2} className="sticky left-0 bg-ground pt-3 text-left">
                {PURPOSE_NAMES[purpose]}
              </th>
            </tr>
            {ofPurpose(purpose).map(({ row, parameter }) => (
              <PeerLine key={row.code} row={row} parameter={parameter} peers={peers} />
            ))}
          </tbody>
        ))}
      </table>
    </div>
  );
}

function PeerLine({ row, parameter, peers }: { row: PeerRowView; parameter: Parameter; peers: PeersView }) {
  return (
    <tr className="[&>*]:border-t [&>*]:border-rule">
      <th className="sticky left-0 z-10 bg-ground py-1 pr-3 text-left font-normal whitespace-nowrap">
        <span className="font-mono">{row.code}</span> {parameter.name}
      </th>
      <td className="px-3 font-mono whitespace-nowrap">
        {row.usual === null ? (
          <span className="font-sans text-soft">{row.odd.length === 0 ? 'each its own' : 'no majority'}</span>
        ) : (
          showReading(parameter, row.usual)
        )}
      </td>
      {row.readings.map((reading, at) => {
        const odd = row.odd.includes(at);
        const share = row.shares[at] ?? 1;
        const count = Math.round(share * row.readings.length);
        return (
          <td
            key={peers.columns[at]?.tag}
            className={`px-2 font-mono whitespace-nowrap ${odd ? 'bg-look-wash font-semibold' : 'text-soft'}`}
            title={`${count} of ${row.readings.length} hold this`}
          >
            {odd && <span aria-label="odd one out">◆ </span>}
            {showReading(parameter, reading)}
          </td>
        );
      })}
    </tr>
  );
}
