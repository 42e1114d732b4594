// The whole sheet of a replacement, in a process of its own: the walk through all that the devices can bring about takes a
// second or two, in which a server would answer nobody. Plain JavaScript over the built core.

import { constants, setPriority } from 'node:os';
import { Bridge, Vocabulary } from '@drive-keep/core/meanings';
import { readCrossReference, replacementSheet, sayingsFrom } from '@drive-keep/core/replace';
import workerpool from 'workerpool';

// People who wait for a screen come first.
setPriority(constants.priority.PRIORITY_BELOW_NORMAL);

function work({
  entries,
  functions,
  old,
  outfit,
  readings,
  wiring,
  onLine,
  ambient,
  fresh,
  region,
  rating,
  cross,
  sayings,
}) {
  const words = new Vocabulary(entries, functions);
  const bridge = new Bridge(words);
  const read = cross === null ? null : readCrossReference(cross, old, fresh);
  return replacementSheet({
    ...{ bridge, words, fresh, region, rating },
    old: { set: bridge.read(old, outfit, readings), outfit, wiring, onLine, ambient },
    cross: read?.ok ? read.value : null,
    sayings: sayingsFrom(sayings),
  });
}

workerpool.worker({ work });
