import { Button } from '../ui/button.tsx';
import { ProblemNotice } from '../ui/notice.tsx';
import { showTime } from '../words/dates.ts';
import type { DraftOnScreen } from './use-model-draft.ts';

/** Whether the server has what stands on the screen. */
export function DraftState({ draft }: { draft: DraftOnScreen }) {
  const { state, error, draft: kept } = draft;
  if (error)
    return (
      <div className="w-full">
        <ProblemNotice error={error} />
        <div className="mt-2 flex gap-2">
          <Button onClick={draft.again}>Try once more</Button>
          <Button onClick={draft.takeTheirs}>Take what the server has</Button>
        </div>
      </div>
    );
  return (
    <p role="status" className="text-sm text-soft">
      {state === 'kept'
        ? `✓ Draft as of ${showTime(kept.changedAt)}, by ${kept.changedBy}`
        : state === 'bringing'
          ? 'Bringing it to the server …'
          : 'Changed here, not yet at the server'}
    </p>
  );
}
