// What of the register is wanted, in which order, and which part of it.

import { STATE_KINDS, type PositionStateKind, type PositionView, type RegisterSort } from '@drive-keep/api';

export interface RegisterFilter {
  readonly area?: string | undefined;
  readonly machine?: string | undefined;
  /** Without its version. */
  readonly model?: string | undefined;
  readonly criticality?: string | undefined;
  readonly find?: string | undefined;
  readonly state?: PositionStateKind | undefined;
  /** With an open finding, or one that stops. */
  readonly findings?: 'open' | 'stop' | undefined;
  readonly sort: RegisterSort;
  readonly backwards: boolean;
}

type Counts = Partial<Record<PositionStateKind, number>>;

export interface FilteredRegister {
  readonly positions: readonly PositionView[];
  /** By state, over everything that the other filters let through. */
  readonly counts: Counts;
  /** In place with an open finding, over the same. */
  readonly withFindings: number;
}

/** `all` in plant order, which is kept among equals. Retired positions are shown only when asked for. */
export function filterRegister(all: readonly PositionView[], filter: RegisterFilter): FilteredRegister {
  const words = (filter.find ?? '')
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  const matching = all.filter((position) => matches(position, filter, words));
  const counts: Counts = {};
  for (const { state } of matching) counts[state.kind] = (counts[state.kind] ?? 0) + 1;
  const withFindings = matching.filter((position) => hasFindings(position, 'open')).length;
  const shown = matching.filter(
    (position) =>
      (filter.state ? position.state.kind === filter.state : position.state.kind !== 'retired') &&
      (filter.findings === undefined || hasFindings(position, filter.findings)),
  );
  const key = keyOf(filter.sort);
  const sorted = key ? [...shown].sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0)) : shown;
  return { positions: filter.backwards ? [...sorted].reverse() : sorted, counts, withFindings };
}

const hasFindings = ({ findings }: PositionView, wanted: 'open' | 'stop'): boolean =>
  findings !== null && (findings.stop > 0 || (wanted === 'open' && findings.look > 0));

function matches(position: PositionView, filter: RegisterFilter, words: readonly string[]): boolean {
  const { unit } = position;
  if (filter.area !== undefined && position.area !== filter.area) return false;
  if (filter.machine !== undefined && position.machine !== filter.machine) return false;
  if (filter.model !== undefined && unit.dictionary.split('@')[0] !== filter.model) return false;
  if (filter.criticality !== undefined && position.criticality !== filter.criticality) return false;
  if (words.length === 0) return true;
  const text =
    `${position.tag} ${position.duty} ${position.area} ${position.machine} ${position.motor} ${unit.maker} ${unit.model} ${unit.serial}`.toLowerCase();
  return words.every((word) => text.includes(word));
}

type Key = (position: PositionView) => string | number;

function keyOf(sort: RegisterSort): Key | undefined {
  const keys: Readonly<Record<RegisterSort, Key | undefined>> = {
    plant: undefined,
    tag: ({ tag }) => tag,
    model: ({ unit }) => `${unit.maker} ${unit.model} ${unit.rating}`,
    state: ({ state: { kind } }) => STATE_KINDS.indexOf(kind),
    // Never backed up comes first: it is the most overdue of all.
    backup: ({ newestBackup }) => newestBackup ?? '',
    differences: ({ drift }) => -(drift ?? -1),
  };
  return keys[sort];
}
