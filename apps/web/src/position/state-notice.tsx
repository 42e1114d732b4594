// What the state of a position asks for, and the ways to answer: a swap is recorded with what was found, silence is answered by
// another try, an overdue backup by one. Who may not is told who may.

import type { PositionDetailView } from '@drive-keep/api';
import { Button } from '../ui/button.tsx';
import { Notice } from '../ui/notice.tsx';
import { Way } from '../ui/way.tsx';
import { showAge } from '../words/dates.ts';

interface Props {
  readonly position: PositionDetailView;
  readonly mayWork: boolean;
  readonly backUp: () => void;
  readonly busy: boolean;
}

export function StateNotice(props: Props) {
  const { position, mayWork } = props;
  const { kind, attention } = position.state;
  if (attention !== 'stop' && kind !== 'overdue') return null;
  return (
    <div className="mt-2">
      <Notice level={attention === 'stop' ? 'stop' : 'look'}>
        {textOf(position)} {!mayWork && 'A technician or an engineer can see to it.'}
        {mayWork && <Answers {...props} />}
      </Notice>
    </div>
  );
}

function textOf(position: PositionDetailView): string {
  const { kind, text } = position.state;
  const { lastTry } = position;
  if (kind === 'damaged')
    return 'What was kept as its baseline or its newest backup cannot be read back. A backup that finds the same values mends it; npm run verify names what is damaged.';
  if (kind === 'overdue') return 'A backup is due.';
  if (!lastTry) return `${text}.`;
  return `Last try ${showAge(lastTry.at)}: ${lastTry.text}`;
}

function Answers({ position: { tag, unit, lastTry, damaged }, backUp, busy }: Props) {
  const swapped = !damaged && (lastTry?.outcome === 'other-serial' || lastTry?.outcome === 'other-model');
  const found = lastTry?.foundSerial ? `serial=${lastTry.foundSerial}` : 'swap=yes';
  return (
    <span className="mt-1 flex flex-wrap gap-2">
      {swapped && <Way to={`/positions/${tag}/record?${found}`}>Record the swap</Way>}
      {unit.line ? (
        <Button disabled={busy} onClick={backUp}>
          {lastTry && !damaged ? 'Try again' : 'Back it up'}
        </Button>
      ) : (
        <Way to={`/positions/${tag}/read-off`}>Read it off</Way>
      )}
    </span>
  );
}
