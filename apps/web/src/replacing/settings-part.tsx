// What becomes of every setting: the old one on the left, what it is on the successor on the right, and between them what
// happens. What waits for somebody stands first.

import type { PositionSiteView } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { GROUP_NAMES, type Group, type LineText } from '@drive-keep/core/replace';
import { usePositionSite } from '../api/queries.ts';
import { useState } from 'react';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/choice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { Accept, Told } from './accept.tsx';
import { openText } from './open-text.ts';
import { OwnValues } from './own-values.tsx';
import { useSpeaking } from './saying.tsx';

export function SettingsPart({
  lines,
  old,
  fresh,
  tag,
}: {
  lines: readonly LineText[];
  old: Dictionary;
  fresh: Dictionary;
  tag: string;
}) {
  const { data: site } = usePositionSite(tag);
  const open = lines.filter((line) => line.open);
  // What was open when one came stays where it is: nobody's field goes away while he types.
  const [met, setMet] = useState<ReadonlySet<string>>(new Set());
  if (open.some(({ id }) => !met.has(id))) setMet(new Set([...met, ...open.map(({ id }) => id)]));
  const first = lines.filter(({ id }) => met.has(id));
  const closed = lines.filter(({ id }) => !met.has(id));
  const groups = (Object.keys(GROUP_NAMES) as Group[]).map(
    (group) => [group, closed.filter((line) => line.group === group)] as const,
  );
  return (
    <SheetPart name="Settings" state={`${openText(open.length)}, ${lines.length} lines`}>
      {first.length > 0 && (
        <>
          <h3 className="font-semibold">Somebody has to say what becomes of it</h3>
          <Lines lines={first} old={old} fresh={fresh} site={site} />
        </>
      )}
      {groups.map(([group, own]) =>
        own.length === 0 ? null : (
          <details key={group} open={group === 'asked'} className="mt-2">
            <summary className="cursor-pointer py-1 font-semibold max-lg:min-h-12">
              {GROUP_NAMES[group]} <span className="font-normal text-soft">{own.length}</span>
            </summary>
            <Lines lines={own} old={old} fresh={fresh} site={site} />
          </details>
        ),
      )}
    </SheetPart>
  );
}

interface LinesProps {
  readonly lines: readonly LineText[];
  readonly old: Dictionary;
  readonly fresh: Dictionary;
  readonly site: PositionSiteView | undefined;
}

function Lines({ lines, old, fresh, site }: LinesProps) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full table-fixed text-left text-sm max-md:min-w-[44rem]">
        <thead className="border-b border-rule text-soft">
          <tr>
            <th className="w-[28%] py-1 pr-4 font-normal">{old.name}</th>
            <th className="w-[40%] py-1 pr-4 font-normal">What happens</th>
            <th className="py-1 font-normal">{fresh.name}</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <LineRow key={line.id} line={line} fresh={fresh} site={site} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function LineRow({
  line,
  fresh,
  site,
}: {
  line: LineText;
  fresh: Dictionary;
  site: PositionSiteView | undefined;
}) {
  const { id, code, name, value, now, open } = line;
  const isOld = id.startsWith('old ');
  const own = (
    <>
      <span className="font-mono">{code}</span> {name}: <b className="font-medium">{value}</b>
    </>
  );
  return (
    <tr data-line={id} className={`border-b border-rule align-top ${open ? 'bg-look-wash' : ''}`}>
      <td className="py-1 pr-4 pl-1">{isOld && own}</td>
      <td className="py-1 pr-4">
        <Happens line={line} site={site} />
      </td>
      <td className="py-1 pr-1">
        {!isOld && own}
        {now.map((each) => (
          <div key={each.code}>
            <span className="font-mono">{each.code}</span> {each.name}:{' '}
            <b className="font-medium">{each.value}</b>
          </div>
        ))}
        <OwnValues line={line} fresh={fresh} />
      </td>
    </tr>
  );
}

function Happens({ line, site }: { line: LineText; site: PositionSiteView | undefined }) {
  const { id, code, why, question, proven, open, meanings } = line;
  const { may, say, last, before } = useSpeaking();
  const word = last('setting', id)?.value;
  const chosen = word?.kind === 'choice' ? word.at : null;
  const [earlier] = before('setting', id);
  const earlierChoice = earlier?.value?.kind === 'choice' ? question?.choices[earlier.value.at] : undefined;
  return (
    <>
      {why}
      {!proven && <span className="text-soft"> Unproven: no cross-reference says it.</span>}
      <SiteWord meanings={meanings} site={site} />
      {question && (
        <div className="mt-1">
          <p className="font-medium">{question.ask}</p>
          {may ? (
            <Choice
              label={`Answer for ${code}`}
              hidden
              value={chosen === null ? '' : String(chosen)}
              options={[
                { id: '', name: 'Choose …' },
                ...question.choices.map((text, at) => ({ id: String(at), name: text })),
              ]}
              onChange={({ target }) =>
                say('setting', id, target.value === '' ? null : { kind: 'choice', at: Number(target.value) })
              }
            />
          ) : (
            <p>{chosen === null ? 'Not answered yet.' : question.choices[chosen]}</p>
          )}
          {earlier?.value && earlierChoice !== undefined && chosen === null && (
            <p className="mt-1 text-soft">
              {earlier.tag}, {earlier.by}: “{earlierChoice}”{' '}
              {may && (
                <Button weight="quiet" onClick={() => say('setting', id, earlier.value)}>
                  The same here
                </Button>
              )}
            </p>
          )}
          <Told part="setting" line={id} />
        </div>
      )}
      {!question && (open || word?.kind === 'accepted') && <Accept part="setting" line={id} label={code} />}
    </>
  );
}

/** What was measured at the supply or told of the cabinet, where the meaning is that; and where it does not belong. */
function SiteWord({ meanings, site }: { meanings: readonly string[]; site: PositionSiteView | undefined }) {
  const [newest] = site?.supply?.measurements ?? [];
  const volts = newest
    ? `${newest.volts.toFixed(0)} V were measured at ${site?.supply?.name ?? 'its supply'}`
    : null;
  const ambient = site?.cabinet?.ambient ?? null;
  const word =
    volts !== null && meanings.includes('unit.mains')
      ? `${volts}.`
      : volts !== null && meanings.includes('motor.ratedVoltage')
        ? `${volts}: that belongs to the mains, not to the plate of the motor.`
        : ambient !== null && meanings.includes('site.ambient')
          ? `Its cabinet is told to reach ${ambient} °C.`
          : null;
  return word === null ? null : <span className="block text-soft">{word}</span>;
}
