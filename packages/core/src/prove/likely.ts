// What is likely where other terminals moved than should have: named by the wires that are kept there. Likely, not certain: only
// a look at the terminal tells.

import type { ProofInput } from './proof-step.ts';

/** Numbers of the inputs that should have moved, and of those that did. */
export function likelyOf(
  inputs: readonly ProofInput[],
  wanted: readonly string[],
  moved: readonly string[],
): readonly string[] {
  const missing = wanted.filter((each) => !moved.includes(each));
  const extra = moved.filter((each) => !wanted.includes(each));
  const at = (number: string): ProofInput | undefined => inputs.find((each) => each.number === number);
  const wiresAt = (number: string): string => {
    const wires = at(number)?.wires ?? [];
    return wires.length === 0
      ? `what hangs on terminal ${at(number)?.terminal ?? number}`
      : wires.join(' and ');
  };
  const terminal = (number: string): string => at(number)?.terminal ?? number;
  const [gone, come] = [missing[0], extra[0]];
  if (missing.length === 1 && extra.length === 1 && gone !== undefined && come !== undefined)
    return [
      `Terminal ${terminal(come)} moved in the place of ${terminal(gone)}. Likely ${wiresAt(gone)} sits at terminal ${terminal(come)}, and belongs to ${terminal(gone)}.`,
      ...((at(come)?.wires.length ?? 0) > 0
        ? [
            `If both are swapped, ${wiresAt(come)} sits at ${terminal(gone)}, and belongs to ${terminal(come)}.`,
          ]
        : []),
    ];
  return [
    ...missing.map(
      (number) =>
        `Terminal ${terminal(number)} did not move: ${wiresAt(number)} is likely open or at another terminal, or its contact does not switch.`,
    ),
    ...extra.map(
      (number) =>
        `Terminal ${terminal(number)} moved, too: ${wiresAt(number)} is likely touched by another, or a device was worked that is not in this step.`,
    ),
  ];
}
