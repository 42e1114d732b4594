// What the differences of a paper do, in a process of its own: a walk takes a second or two, in which a server would answer
// nobody. Plain JavaScript over the built core, so that it runs alike from sources and when built.

import { constants, setPriority } from 'node:os';
import { effectsOf } from '@drive-keep/core/behaviour';
import { Bridge, Vocabulary } from '@drive-keep/core/meanings';
import workerpool from 'workerpool';

// People who wait for a screen come first.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

function work({ entries, functions, changed, limits }) {
  return effectsOf(new Bridge(new Vocabulary(entries, functions)), changed, limits);
}

workerpool.worker({ work });
