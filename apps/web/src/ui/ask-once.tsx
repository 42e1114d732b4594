// Writing to a unit asks once, naming what is written to.

import { AlertDialog } from 'radix-ui';
import { Button } from './button.tsx';

export function AskOnce({
  what,
  question = `${what}?`,
  note,
  yes,
  disabled,
  weight = 'main',
  confirm,
}: {
  /** On the button that asks. */
  what: string;
  question?: string;
  note: string;
  /** On the button that does it. */
  yes: string;
  disabled: boolean;
  /** Of the button that asks. */
  weight?: 'main' | 'plain';
  confirm: () => void;
}) {
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>
        <Button weight={weight} className={weight === 'main' ? 'min-h-12' : ''} disabled={disabled}>
          {what}
        </Button>
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 bg-black/40" />
        <AlertDialog.Content className="fixed top-1/3 left-1/2 w-[min(30rem,94vw)] -translate-x-1/2 rounded-lg border border-rule bg-sheet p-5">
          <AlertDialog.Title className="text-lg font-semibold">{question}</AlertDialog.Title>
          <AlertDialog.Description className="mt-2 text-soft">{note}</AlertDialog.Description>
          <div className="mt-5 flex justify-end gap-3">
            <AlertDialog.Cancel asChild>
              <Button className="min-h-12">Not now</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button weight="main" className="min-h-12" onClick={confirm}>
                {yes}
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
