import type { ReplacementView } from '@drive-keep/api';
import { findParameter, type Dictionary } from '@drive-keep/core/dictionary';
import { useReplacementChecks } from '../api/queries.ts';
import { UntoldChecks } from '../checks/untold-checks.tsx';
import { Unanswered } from '../ui/answer.tsx';
import { SheetPart } from '../ui/page.tsx';

/** What the checks would find in the successor with what has been said of it until now. */
export function ChecksPart({ view, fresh }: { view: ReplacementView; fresh: Dictionary }) {
  const { data, error } = useReplacementChecks(view);
  if (!data)
    return (
      <SheetPart name="Checks">
        <Unanswered error={error} what="the checks of the successor" />
      </SheetPart>
    );
  const { findings, looked, untold } = data;
  return (
    <>
      <SheetPart
        name="Checks"
        state={findings.length === 0 ? `${looked} looked` : `${findings.length} found`}
      >
        {findings.length === 0 ? (
          <p className="text-soft">
            Nothing was found in what the sheet promises; {untold.length} of {looked} could not be told.
          </p>
        ) : (
          <ul>
            {findings.map(({ identity, attention, text, why, values }) => (
              <li
                key={identity}
                className={`mb-2 border-l-4 px-3 py-1.5 ${attention === 'stop' ? 'border-stop bg-stop-wash' : 'border-look bg-look-wash'}`}
              >
                <p>
                  {attention === 'stop' && <strong className="mr-2 text-stop">Mend.</strong>}
                  <span className="font-medium">{text}</span>
                </p>
                <p className="text-sm text-soft">
                  {values.map(({ code }) => `${code} ${findParameter(fresh, code)?.name ?? ''}`).join(', ')}
                  {values.length > 0 && ' · '}
                  {why}
                </p>
              </li>
            ))}
          </ul>
        )}
      </SheetPart>
      <UntoldChecks untold={untold} />
    </>
  );
}
