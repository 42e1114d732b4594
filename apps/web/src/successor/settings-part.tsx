import type { Group } from '@drive-keep/core/replace';
import { Choice } from '../ui/choice.tsx';
import { SheetPart } from '../ui/page.tsx';
import type { LineText } from './successor-answer.ts';

const GROUP_NAMES: Readonly<Record<Group, string>> = {
  asked: 'Asked',
  converted: 'Converted',
  carried: 'Carried as it is',
  plate: 'By motor and supply',
  check: 'Check only',
  left: 'Left behind',
  new: 'Only the successor has it',
};

export function SettingsPart({
  lines,
  old,
  fresh,
  choose,
}: {
  lines: readonly LineText[];
  old: string;
  fresh: string;
  choose: (id: string, at: number) => void;
}) {
  const open = lines.filter((line) => line.open);
  const closed = lines.filter((line) => !line.open);
  const groups = (Object.keys(GROUP_NAMES) as Group[]).map(
    (group) => [group, closed.filter((line) => line.group === group)] as const,
  );
  return (
    <SheetPart name="Settings" state={`${open.length} open of ${lines.length}`}>
      {open.length > 0 && (
        <>
          <h3 className="font-semibold">Open: somebody has to say what becomes of it</h3>
          <Lines lines={open} old={old} fresh={fresh} choose={choose} />
        </>
      )}
      {groups.map(([group, own]) =>
        own.length === 0 ? null : (
          <details key={group} open={group === 'asked'} className="mt-2">
            <summary className="cursor-pointer py-1 font-semibold max-lg:min-h-12">
              {GROUP_NAMES[group]} <span className="font-normal text-soft">{own.length}</span>
            </summary>
            <Lines lines={own} old={old} fresh={fresh} choose={choose} />
          </details>
        ),
      )}
    </SheetPart>
  );
}

function Lines({
  lines,
  old,
  fresh,
  choose,
}: {
  lines: readonly LineText[];
  old: string;
  fresh: string;
  choose: (id: string, at: number) => void;
}) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left text-sm">
        <thead className="border-b border-rule text-soft">
          <tr>
            <th className="w-1/3 py-1 pr-4 font-normal">{old}</th>
            <th className="w-1/3 py-1 pr-4 font-normal">{fresh}</th>
            <th className="py-1 font-normal">What happens</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <LineRow key={line.id} line={line} choose={choose} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function LineRow({ line, choose }: { line: LineText; choose: (id: string, at: number) => void }) {
  const { id, code, name, value, now, why, question, chosen, proven } = line;
  const own = (
    <>
      <span className="font-mono">{code}</span> {name}: {value}
    </>
  );
  const isOld = id.startsWith('old ');
  return (
    <tr className="border-b border-rule align-top">
      <td className="py-1 pr-4">{isOld && own}</td>
      <td className="py-1 pr-4">{isOld ? now.map((text) => <div key={text}>{text}</div>) : own}</td>
      <td className="py-1">
        {why}
        {!proven && <span className="text-soft"> Unproven: no cross-reference says it.</span>}
        {question && (
          <div className="mt-1">
            <p className="font-medium">{question.ask}</p>
            <Choice
              label={`Answer for ${code}`}
              hidden
              value={chosen === null ? '' : String(chosen)}
              options={[
                { id: '', name: 'Choose …' },
                ...question.choices.map((text, at) => ({ id: String(at), name: text })),
              ]}
              onChange={({ target }) => target.value !== '' && choose(id, Number(target.value))}
            />
          </div>
        )}
      </td>
    </tr>
  );
}
