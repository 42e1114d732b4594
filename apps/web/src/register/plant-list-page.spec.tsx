import { describe, expect, it } from '@jest/globals';
import type { PlantListPreview } from '@drive-keep/api';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen } from '../testing/screen.tsx';
import { PlantListPage } from './plant-list-page.tsx';

const PREVIEW: PlantListPreview = {
  fileName: 'plant.csv',
  notes: [],
  hash: 'sha256:1',
  acceptable: true,
  rows: [
    { line: 2, tag: 'A-1', duty: 'Belt 1', does: 'nothing', changes: [], findings: [] },
    { line: 3, tag: 'A-2', duty: 'Belt 2', does: 'add', changes: [], findings: [] },
    {
      line: 4,
      tag: 'A-3',
      duty: 'Belt 3',
      does: 'change',
      changes: ['duty from "x" to "Belt 3"'],
      findings: [],
    },
  ],
};
const STOPPED: PlantListPreview = {
  ...PREVIEW,
  acceptable: false,
  rows: [
    ...PREVIEW.rows,
    {
      ...{ line: 5, tag: 'A 4', duty: '', does: 'stopped', changes: [] },
      findings: [{ attention: 'stop', text: '"A 4" is no tag.' }],
    },
  ],
};

function show(preview: PlantListPreview) {
  const shown = showScreen('/list', '/list', <PlantListPage />, {
    'POST plant-list/preview': preview,
    'POST plant-list': preview,
  });
  const file = new File(['tag'], 'plant.csv');
  fireEvent.change(screen.getByLabelText('Plant list'), { target: { files: [file] } });
  return shown;
}

describe('a plant list', () => {
  it('is shown with what it would do before anything is done, changes first', async () => {
    const { sent } = show(PREVIEW);
    const lines = await screen.findAllByRole('listitem');
    expect(lines.map((line) => line.textContent)).toEqual([
      'line 4A-3Belt 3 changes: duty from "x" to "Belt 3"',
      'line 3A-2Belt 2 is added',
      'line 2A-1Belt 1 stays as it is',
    ]);
    expect(sent.map(({ path }) => path)).toEqual(['plant-list/preview']);
  });

  it('is taken in with the hash that was seen', async () => {
    const { sent } = show(PREVIEW);
    fireEvent.click(await screen.findByRole('button', { name: 'Add 1 and change 1' }));
    await waitFor(() => expect(sent).toHaveLength(2));
    const form = sent[1]?.body as FormData;
    expect([form.get('hash'), (form.get('file') as File).name]).toEqual(['sha256:1', 'plant.csv']);
  });

  it('with a row that cannot be taken says so first, and is not taken in', async () => {
    show(STOPPED);
    const [first] = await screen.findAllByRole('listitem');
    expect(first?.textContent).toContain('"A 4" is no tag.');
    expect(screen.getByText(/1 stopped: mend these in the file first/)).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /Add 1/ }).disabled).toBe(true);
  });
});
