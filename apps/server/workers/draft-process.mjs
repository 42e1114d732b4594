// The sheet of a draft of first settings, in a process of its own: a wiring with many contacts takes longer than people who wait
// for other screens would put up with. Plain JavaScript over the built core.

import { constants, setPriority } from 'node:os';
import { Bridge, Vocabulary } from '@drive-keep/core/meanings';
import { draftInputOf, draftSheet } from '@drive-keep/core/start';
import workerpool from 'workerpool';

// People who wait for a screen come first.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

function work({ entries, functions, kept }) {
  const bridge = new Bridge(new Vocabulary(entries, functions));
  const { readings, ...sheet } = draftSheet(draftInputOf(bridge, kept));
  return { sheet, readings: [...readings] };
}

workerpool.worker({ work });
