// What the checks found, on paper, in the columns of a settings record: what is open first, then what somebody has accepted.

import type { CheckFindingView, ChecksView } from '@drive-keep/api';
import type { Paper, PaperRow } from './paper.ts';

export function checkParts({ findings }: ChecksView): Paper['parts'] {
  const open = findings.filter(({ accepted }) => accepted === null);
  const accepted = findings.filter((each) => each.accepted !== null);
  return [
    { name: 'Checks: open', rows: open.map(rowOf) },
    { name: 'Checks: accepted', rows: accepted.map(rowOf) },
  ].filter(({ rows }) => rows.length > 0);
}

function rowOf({ attention, text, values, accepted, lapsed }: CheckFindingView): PaperRow {
  const state = accepted
    ? `until ${accepted.until}, ${accepted.person}: ${accepted.reason}`
    : attention === 'stop'
      ? 'to mend'
      : 'to look at';
  const before = lapsed ? `was accepted until ${lapsed.until}, ${lapsed.person}` : '';
  return {
    cells: [values.map(({ code }) => code).join(', '), text, state, before],
    marked: accepted === null && attention === 'stop',
  };
}

/** With what could not be told: nothing found is not the same as nothing wrong. */
export function checksText({ findings, looked, untold }: ChecksView): string {
  const open = findings.filter(({ accepted }) => accepted === null).length;
  const parts = [
    `${looked} checks, ${open} open`,
    ...(findings.length > open ? [`${findings.length - open} accepted`] : []),
    ...(untold.length > 0 ? [`${untold.length} could not be told`] : []),
  ];
  return parts.join(', ');
}
