// What the sheet comes to, at every key: what is open, what was found, what the contacts do, and what it sets against the defaults
// with the reason of each.

import type { DraftSheet } from '@drive-keep/core/start';
import { Link } from 'react-router';

export function Beside({ id, sheet, isOlder }: { id: string; sheet: DraftSheet; isOlder: boolean }) {
  const stops = sheet.findings.filter(({ attention }) => attention === 'stop');
  const looks = sheet.findings.filter(({ attention }) => attention === 'look');
  const missed = sheet.table.filter(({ passed }) => !passed);
  return (
    <aside
      id="comes-to"
      aria-label="What it comes to"
      aria-busy={isOlder}
      className="min-w-0 lg:sticky lg:top-2 lg:max-h-[calc(100vh-1rem)] lg:self-start lg:overflow-y-auto lg:pl-5"
    >
      <p className="text-xl font-semibold" aria-live="polite">
        {sumOf(sheet)}
      </p>
      <Refusals sheet={sheet} />
      <h3 className="mt-3 font-semibold">
        Found{' '}
        <span className="font-normal text-soft">
          {sheet.findings.length > 0
            ? `${stops.length} to stop at, ${looks.length} to look at`
            : sheet.open > 0
              ? 'nothing in what is told so far'
              : 'nothing'}
        </span>
      </h3>
      <ul className="text-sm">
        {sheet.findings.map(({ attention, text, of }) => (
          <li
            key={`${of} ${text}`}
            className={`my-1 border-l-4 px-2 py-0.5 ${attention === 'stop' ? 'border-stop bg-stop-wash' : 'border-look bg-look-wash'}`}
          >
            {attention === 'stop' && <b className="text-stop">Stop. </b>}
            {text}
          </li>
        ))}
      </ul>
      {sheet.untold.length > 0 && (
        <details className="text-sm text-soft">
          <summary className="cursor-pointer">
            {sheet.untold.length} checks were not told all that they need
          </summary>
          <ul>
            {sheet.untold.map(({ check, missing }) => (
              <li key={check}>{missing.join(', ')}</li>
            ))}
          </ul>
        </details>
      )}
      <Table sheet={sheet} missed={missed.length} />
      <Contacts id={id} sheet={sheet} />
      <Sets sheet={sheet} />
    </aside>
  );
}

export function sumOf(sheet: DraftSheet): string {
  if (sheet.refusals.length > 0) return 'This model cannot take the duty.';
  if (sheet.open > 0) return `${sheet.open} ${sheet.open === 1 ? 'thing is' : 'things are'} to be told.`;
  const stops = sheet.findings.filter(({ attention }) => attention === 'stop').length;
  const missed = sheet.table.filter(({ passed }) => !passed).length;
  if (stops + missed > 0) return `All is told; ${stops + missed} to stop at.`;
  return `All is told: ${sheet.lines.length} settings otherwise than delivered.`;
}

function Refusals({ sheet: { refusals, passedOver } }: { sheet: DraftSheet }) {
  return (
    <>
      {refusals.map((text) => (
        <p key={text} className="my-1 border-l-4 border-stop bg-stop-wash px-2 py-0.5 text-sm">
          {text}
        </p>
      ))}
      {passedOver.length > 0 && (
        <details className="text-sm text-soft">
          <summary className="cursor-pointer">
            {passedOver.length} {passedOver.length === 1 ? 'wish' : 'wishes'} of the starting point that this
            model does not know
          </summary>
          {passedOver.join(', ')}
        </details>
      )}
    </>
  );
}

/** The duty's own table: what every contact must do. */
function Table({ sheet: { table }, missed }: { sheet: DraftSheet; missed: number }) {
  if (table.length === 0) return null;
  return (
    <section aria-label="What the contacts must do">
      <h3 className="mt-3 font-semibold">
        What the contacts must do{' '}
        <span className="font-normal text-soft">
          {missed === 0 ? `all ${table.length} as they must` : `${missed} of ${table.length} not`}
        </span>
      </h3>
      <table className="w-full text-left text-sm">
        <tbody>
          {table.map(({ act, must, does, passed, why }) => (
            <tr
              key={`${act} ${must}`}
              className={`border-b border-rule align-top ${passed ? '' : 'bg-stop-wash'}`}
            >
              <td className="w-5 py-1" title={passed ? 'as it must' : 'not as it must'}>
                <span aria-hidden="true">{passed ? '✓' : '✕'}</span>
                <span className="sr-only">{passed ? 'as it must' : 'not as it must'}</span>
              </td>
              <td className="py-1 pr-2" title={why}>
                {act}
              </td>
              <td className="py-1">{passed ? must : `must: ${must}; does: ${does}`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Contacts({ id, sheet: { contacts } }: { id: string; sheet: DraftSheet }) {
  return (
    <p className="mt-2 text-sm">
      {contacts.length > 0 && (
        <details>
          <summary className="cursor-pointer">
            Every combination of the standing contacts: {contacts.length}
          </summary>
          <ul className="border-l-2 border-rule pl-2">
            {contacts.map(({ given, does }) => (
              <li key={given}>
                <span className="text-soft">{given}:</span> {does}
              </li>
            ))}
          </ul>
        </details>
      )}
      <Link to={`/drafts/${id}/dry-run`} className="text-plum underline">
        Work its contacts in a dry run
      </Link>
    </p>
  );
}

function Sets({ sheet: { lines } }: { sheet: DraftSheet }) {
  return (
    <section aria-label="What it sets">
      <h3 className="mt-3 font-semibold">
        What it sets <span className="font-normal text-soft">{lines.length} otherwise than delivered</span>
      </h3>
      <table className="w-full table-fixed text-left text-sm">
        <tbody>
          {lines.map(({ code, name, value, delivered, why }) => (
            <tr key={code} className="border-b border-rule align-top">
              <td className="w-16 py-1 font-mono break-words">{code}</td>
              <td className="py-1 pr-2">
                {name}: <b className="font-medium">{value}</b>{' '}
                <span className="text-soft">was {delivered}</span>
                <span className="block text-xs text-soft">{why}</span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
