import { describe, expect, it } from '@jest/globals';
import type { PlantFindingsView, PlantFindingView } from '@drive-keep/api';
import { screen, waitFor } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { NewFindings } from './new-findings.tsx';

const ONE: PlantFindingView = {
  ...{ tag: 'GL-BE-01', duty: 'Belt', identity: 'overload-over-plate', name: 'Overload', attention: 'stop' },
  ...{ text: 'The overload level is 1.30 A.', since: '2026-11-27T02:00:00Z' },
};
const NOTHING = { findings: [], fresh: 0, open: 0, positions: 0, checked: 42, waiting: 0, unknown: 0 };

describe('the new findings of the morning', () => {
  it.each<[string, Partial<PlantFindingsView>, string]>([
    ['all were checked', {}, 'No new finding since'],
    ['some wait for their check', { checked: 30, waiting: 12 }, 'No new finding so far since'],
    ['none was checked', { checked: 0, waiting: 42 }, 'Nothing is checked yet since'],
    ['one is new', { findings: [ONE], fresh: 1 }, '1 new finding since'],
    ['more are new than stand there', { findings: [ONE], fresh: 260 }, '260 new findings since'],
  ])('say what is known when %s', async (_, view, head) => {
    showScreen('/r', '/r', <NewFindings since="2026-11-26T02:00:00Z" />, {
      'GET session': signedIn('viewer'),
      'GET findings': { ...NOTHING, ...view },
    });
    await waitFor(() => expect(screen.getByRole('heading').textContent).toContain(head));
    const cut = screen.queryByText(/The first 1 stand here/) !== null;
    expect(cut).toBe((view.fresh ?? 0) > (view.findings?.length ?? 0));
  });
});
