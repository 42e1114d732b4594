import type { LinkMove, Move, MoveDoubt } from '@drive-keep/core/replace';
import { Choice } from '../ui/choice.tsx';
import { SheetPart } from '../ui/page.tsx';
import type { SuccessorAnswer } from './successor-answer.ts';

const LINKS: Readonly<Record<LinkMove['does'], string>> = {
  'stays-fitted': 'Fitted by the works: it stays.',
  fit: 'To be fitted.',
  'take-out': 'Fitted by the works: it comes out.',
  'made-anew': 'To be made: the old unit had it.',
  'goes-with-old': 'Goes with the old unit.',
  'out-of-plug': 'Hangs in the plug of the old unit: it comes out.',
};

export function WiresPart({
  answer,
  wired,
  choose,
}: {
  answer: SuccessorAnswer;
  wired: boolean;
  /** Wires and links of one terminal move together, and the settings of an input with them. */
  choose: (from: string, to: string) => void;
}) {
  const { moves, links, logic, switches } = answer;
  const lost = moves.filter(({ to }) => to === null).length;
  return (
    <SheetPart
      name="Wires"
      state={lost > 0 ? `${lost} without a place` : wired ? `${moves.length} ends` : 'none kept'}
    >
      {!wired && <p>No wiring of this position was kept yet: which wire goes where cannot be told.</p>}
      {moves.length > 0 && (
        <table className="w-full text-left text-sm">
          <thead className="border-b border-rule text-soft">
            <tr>
              <th className="py-1 pr-4 font-normal">Wire</th>
              <th className="py-1 pr-4 font-normal">Other end</th>
              <th className="py-1 pr-4 font-normal">Does</th>
              <th className="py-1 pr-4 text-right font-normal">Old terminal</th>
              <th className="py-1 pr-4 font-normal">New terminal</th>
              <th className="py-1 font-normal">Look at</th>
            </tr>
          </thead>
          <tbody>
            {moves.map((move) => (
              <MoveRow key={`${move.wire} ${move.from} ${move.at}`} move={move} choose={choose} />
            ))}
          </tbody>
        </table>
      )}
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
    </SheetPart>
  );
}

function MoveRow({
  move: { number, colour, at, place, from, to, could, doubt },
  choose,
}: {
  move: Move;
  choose: (from: string, to: string) => void;
}) {
  return (
    <tr className={`border-b border-rule ${to === null ? 'bg-stop-wash' : ''}`}>
      <td className="py-1 pr-4 whitespace-nowrap">
        {number === '' ? '–' : number} <span className="text-soft">{colour}</span>
      </td>
      <td className="py-1 pr-4 font-mono">{at}</td>
      <td className="py-1 pr-4">{place}</td>
      <td className="py-1 pr-4 text-right font-mono">{from}</td>
      <td className="py-1 pr-4 font-mono font-semibold">
        <Choice
          label={`New terminal for ${from}, wire ${number}`}
          hidden
          value={to ?? ''}
          options={[
            ...(to === null ? [{ id: '', name: 'none' }] : []),
            ...could.map((id) => ({ id, name: id })),
          ]}
          onChange={({ target }) => choose(from, target.value)}
        />
      </td>
      <td className="py-1">{doubt && doubtText(doubt)}</td>
    </tr>
  );
}

function doubtText(doubt: MoveDoubt): string {
  switch (doubt.code) {
    case 'no-place':
      return 'The successor has nothing that does this.';
    case 'which':
      return `Any of ${doubt.of.join(', ')} would do: the first is taken.`;
    case 'other-side':
      return 'The other side of the supply: the contacts change sides.';
    case 'own-supply':
      return 'The old unit fed contacts and potentiometer from one terminal; the successor has one for each.';
  }
}
