import type { Dictionary } from '@drive-keep/core/dictionary';
import type { LinkMove, Move, Point, ReplacementSheet } from '@drive-keep/core/replace';
import { Choice } from '../ui/choice.tsx';
import { SheetPart } from '../ui/page.tsx';
import { Accept } from './accept.tsx';
import { openText } from './open-text.ts';
import { useSpeaking } from './saying.tsx';
import { StripsDrawing } from './strips-drawing.tsx';

const LINKS: Readonly<Record<LinkMove['does'], string>> = {
  'stays-fitted': 'Fitted by the works: it stays.',
  fit: 'To be fitted.',
  'take-out': 'Fitted by the works: it comes out.',
  'made-anew': 'To be made: the old unit had it.',
  'goes-with-old': 'Goes with the old unit.',
  'out-of-plug': 'Hangs in the plug of the old unit: it comes out.',
};

export function WiresPart({
  sheet: { moves, links, logic, switches, doubts, cautions, open },
  old,
  fresh,
  hangs,
}: {
  sheet: ReplacementSheet;
  old: Dictionary;
  fresh: Dictionary;
  /** The new unit is there with its wires: they are not moved here any more. */
  hangs: boolean;
}) {
  const { may, say } = useSpeaking();
  const mayMove = may && !hangs;
  const choose = (line: string, to: string) => say('terminal', line, { kind: 'to', terminal: to });
  return (
    <SheetPart name="Wires" state={`${openText(open.wires)}, ${moves.length} ends`}>
      <StripsDrawing old={old} fresh={fresh} moves={moves} may={mayMove} choose={choose} />
      {moves.length > 0 && (
        <details>
          <summary className="cursor-pointer py-1 font-semibold max-lg:min-h-12">
            Every end <span className="font-normal text-soft">{moves.length}</span>
          </summary>
          <Ends moves={moves} may={mayMove} choose={choose} />
        </details>
      )}
      <Points points={doubts} title="Where function alone does not decide" />
      <h3 className="mt-3 font-semibold">Links and switches</h3>
      <ul className="text-sm">
        {links.map(({ between, was, does, why }) => (
          <li key={`${between.join()} ${does}`} className="py-0.5">
            <span className="font-mono">{between.join('–')}</span>
            {was && was.join() !== between.join() && (
              <span className="text-soft">
                {' '}
                (was <span className="font-mono">{was.join('–')}</span>)
              </span>
            )}
            : {LINKS[does]} <span className="text-soft">{why}</span>
          </li>
        ))}
        {switches.map((text) => (
          <li key={text} className="py-0.5">
            Board switch {text}
          </li>
        ))}
      </ul>
      {logic.old !== logic.fresh && (
        <p className="mt-2">
          Contacts of the old unit are {logic.old ?? 'not told'}, those of the successor{' '}
          {logic.fresh ?? 'not told'}: the common of the contacts changes sides.
        </p>
      )}
      <Points points={cautions} title="To be looked at in the cabinet" />
    </SheetPart>
  );
}

/** Things that somebody has to look at, each with what he found. */
function Points({ points, title }: { points: readonly Point[]; title: string }) {
  if (points.length === 0) return null;
  return (
    <>
      <h3 className="mt-3 font-semibold">{title}</h3>
      <ul className="text-sm">
        {points.map(({ id, text, accepted }) => (
          <li
            key={id}
            className={`border-b border-rule px-1 py-1 ${accepted === null ? 'bg-look-wash' : ''}`}
          >
            {text}
            <Accept part="point" line={id} label={text} ask="What was found" />
          </li>
        ))}
      </ul>
    </>
  );
}

function Ends({
  moves,
  may,
  choose,
}: {
  moves: readonly Move[];
  may: boolean;
  choose: (line: string, to: string) => void;
}) {
  return (
    <table className="w-full text-left text-sm">
      <thead className="border-b border-rule text-soft">
        <tr>
          <th className="py-1 pr-4 font-normal">Wire</th>
          <th className="py-1 pr-4 font-normal">Other end</th>
          <th className="py-1 pr-4 font-normal">Does</th>
          <th className="py-1 pr-4 text-right font-normal">Old terminal</th>
          <th className="py-1 font-normal">New terminal</th>
        </tr>
      </thead>
      <tbody>
        {moves.map((move) => (
          <tr
            key={`${move.wire} ${move.from} ${move.at}`}
            className={`border-b border-rule ${move.to === null ? 'bg-stop-wash' : ''}`}
          >
            <td className="py-1 pr-4 pl-1 whitespace-nowrap">
              {move.number === '' ? '–' : move.number} <span className="text-soft">{move.colour}</span>
            </td>
            <td className="py-1 pr-4 font-mono">{move.at}</td>
            <td className="py-1 pr-4">{move.place}</td>
            <td className="py-1 pr-4 text-right font-mono">{move.from}</td>
            <td className="py-1 font-mono font-semibold">
              {may && move.could.length > 1 ? (
                <NewTerminal move={move} choose={choose} />
              ) : (
                (move.to ?? 'none')
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Wires and links of an input move together, and its settings with them. */
function NewTerminal({
  move: { from, to, number, line, could },
  choose,
}: {
  move: Move;
  choose: (line: string, to: string) => void;
}) {
  return (
    <Choice
      label={`New terminal for ${from}, wire ${number}`}
      hidden
      value={to ?? ''}
      options={[...(to === null ? [{ id: '', name: 'none' }] : []), ...could.map((id) => ({ id, name: id }))]}
      onChange={({ target }) => choose(line, target.value)}
    />
  );
}
