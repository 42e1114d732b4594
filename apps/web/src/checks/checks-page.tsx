// The checks of a position: what is wrong with what its unit was last seen to hold, or with another of its sets, why, and what
// would mend it. What could not be told is told, too.

import type { CheckFindingView, ChecksView } from '@drive-keep/api';
import { Link, useParams, useSearchParams } from 'react-router';
import { useChecks, useDictionary, usePosition, useSession } from '../api/queries.ts';
import { HeadLine } from '../position/head-line.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { Page, SheetPart } from '../ui/page.tsx';
import { showTime } from '../words/dates.ts';
import { Against } from './against.tsx';
import { FindingRow } from './finding-row.tsx';
import { UntoldChecks } from './untold-checks.tsx';

export function ChecksPage() {
  const { tag = '' } = useParams();
  const [params] = useSearchParams();
  const reference = params.get('set') ?? 'newest';
  const { data: position, error } = usePosition(tag);
  const { data: view, error: notChecked } = useChecks(tag, reference);
  const { data: session } = useSession();
  if (!position) return <Unanswered error={error} what="this position" />;
  return (
    <Page title={`Checks of ${tag}`}>
      <HeadLine position={position} />
      <p className="mt-2 text-sm">
        <Link to={`/positions/${tag}`} className="text-plum underline">
          Back to the comparison
        </Link>
      </p>
      {view && session ? (
        <Checked view={view} onLine={position.unit.line !== null} role={session.role} />
      ) : (
        <Unanswered error={notChecked} what={`the checks of ${tag}`} />
      )}
    </Page>
  );
}

function Checked({ view, onLine, role }: { view: ChecksView; onLine: boolean; role: string }) {
  const { tag, reference, findings, untold } = view;
  const { data: dictionary, error } = useDictionary(view.dictionary);
  if (!dictionary) return <Unanswered error={error} what="its model" />;
  const now = reference === 'newest';
  const open = findings.filter(({ accepted }) => accepted === null);
  const accepted = findings.filter((each) => each.accepted !== null);
  const rows = (list: readonly CheckFindingView[]) => (
    <ul>
      {list.map((finding) => (
        <FindingRow
          key={finding.identity}
          {...{ tag, finding, dictionary, onLine }}
          mayWork={now && role !== 'viewer'}
          mayAccept={now && role === 'engineer'}
        />
      ))}
    </ul>
  );
  return (
    <>
      <h2 className="mt-4 text-xl font-semibold">{headingOf(open, view.looked, untold.length)}</h2>
      <p className="mt-1 mb-3 text-soft">
        {view.title}
        {view.at && `, ${showTime(view.at)}`}. {view.looked} checks concern this drive,{' '}
        {showTime(view.checkedAt)}
        {untold.length > 0 && `; ${untold.length} of them could not be told`}. {knownText(view)}
        {!now && (
          <>
            {' '}
            <Link to={`/positions/${tag}/checks`} className="text-plum underline">
              As the unit was last seen
            </Link>
          </>
        )}
      </p>
      {view.against && <Against against={view.against} />}
      {open.length > 0 && (
        <SheetPart name="Open" state={`${open.length}`}>
          {rows(open)}
        </SheetPart>
      )}
      {accepted.length > 0 && (
        <SheetPart name="Accepted" state={`${accepted.length}, each until its day`}>
          {rows(accepted)}
        </SheetPart>
      )}
      <UntoldChecks untold={untold} />
    </>
  );
}

function headingOf(open: readonly CheckFindingView[], looked: number, untold: number): string {
  const stops = open.filter(({ attention }) => attention === 'stop').length;
  const looks = open.length - stops;
  if (open.length === 0)
    return looked > untold ? 'Nothing open in what could be checked' : 'Nothing could be checked';
  return [stops > 0 ? `${stops} to mend` : '', looks > 0 ? `${looks} to look at` : '']
    .filter((each) => each !== '')
    .join(', ');
}

/** What there was to check it with: a check is as good as what is known. */
function knownText({ with: known }: ChecksView): string {
  const has = [
    ...(known.motor ? ['motor plate'] : []),
    ...(known.wiring > 0 ? [`wiring revision ${known.wiring}`] : []),
    ...(known.supply ? ['supply'] : []),
    ...(known.cabinet ? ['cabinet'] : []),
    ...(known.peers > 0 ? [`${known.peers} ${known.peers === 1 ? 'peer' : 'peers'}`] : []),
  ];
  const lacks = [
    ...(known.motor ? [] : ['motor plate']),
    ...(known.wiring > 0 ? [] : ['wiring']),
    ...(known.supply ? [] : ['supply']),
    ...(known.cabinet ? [] : ['cabinet']),
  ];
  return [
    has.length > 0 ? `Checked with ${has.join(', ')}.` : '',
    lacks.length > 0 ? `Not known: ${lacks.join(', ')}.` : '',
  ]
    .join(' ')
    .trim();
}
