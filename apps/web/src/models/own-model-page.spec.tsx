import { describe, expect, it } from '@jest/globals';
import type { OwnModelPreview } from '@drive-keep/api';
import { fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen, signedIn } from '../testing/screen.tsx';
import { OwnModelPage } from './own-model-page.tsx';

const PREVIEW: OwnModelPreview = {
  fileName: 'list.csv',
  kind: 'table',
  ...{ sheets: [], sheet: null, headLine: 1, firstLines: [{ line: 1, text: 'no · name · span' }] },
  ...{ accessAsked: [], moreFindings: 0 },
  columns: ['no', 'name', 'span'],
  sample: [['A1', 'Ramp', '0 to 9 s']],
  assignment: { no: 'code', name: 'name' },
  decimalMark: 'point',
  maker: '',
  name: '',
  about: '',
  firmwareFrom: '0.00',
  firmwareTo: '99.99',
  dictionary: '@1',
  rows: 1,
  parameters: [
    {
      ...{
        line: 2,
        code: 'A1',
        name: 'Ramp',
        menu: '',
        range: '? to 9',
        default: '?',
        unit: 's',
        options: '',
      },
      ...{ access: 'write', stopped: false },
    },
  ],
  findings: [
    { line: 1, column: '', attention: 'stop', text: 'Say the maker and the name of the model.', cell: null },
    { line: 2, column: 'span', attention: 'look', text: 'Look at this.', cell: '0 to 9 s' },
  ],
  acceptable: false,
};

// Rows are drawn as far as they are seen: here all of them are.
Object.defineProperty(HTMLElement.prototype, 'offsetHeight', { configurable: true, value: 400 });

const show = (preview: OwnModelPreview, role = 'engineer') =>
  showScreen('/models/new', '/models/new', <OwnModelPage />, {
    'GET session': signedIn(role),
    'POST models/preview': preview,
    'POST models': { id: 'm-x@1' },
  });

async function choose(): Promise<void> {
  const input = await screen.findByLabelText('File with a parameter list');
  fireEvent.change(input, { target: { files: [new File(['no,name\nA1,Ramp'], 'list.csv')] } });
  await screen.findByText('Understood as');
}

const fieldsOf = (body: unknown) =>
  Object.fromEntries(
    [...(body as FormData)].map(([key, value]) => [key, typeof value === 'string' ? value : 'a file']),
  );

describe('bringing a model', () => {
  it('shows how each line was understood, and every finding with its line and column', async () => {
    show(PREVIEW);
    await choose();
    expect(screen.getByRole('row', { name: /A1 Ramp not told to 9/ })).toBeTruthy();
    fireEvent.click(screen.getByText('To be looked at'));
    expect(screen.getByText('line 2, span')).toBeTruthy();
    expect(screen.getByText('2 of 3 used')).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /Keep as/ }).disabled).toBe(true);
  });

  it('sends what was said about columns and names, each use once, and loses nothing said quickly', async () => {
    const { sent } = show(PREVIEW);
    await choose();
    fireEvent.change(screen.getByLabelText('Use of the column span'), { target: { value: 'name' } });
    fireEvent.change(screen.getByLabelText('Use of the column name'), { target: { value: 'description' } });
    fireEvent.change(screen.getByLabelText('Maker'), { target: { value: 'Millbrook' } });
    fireEvent.change(screen.getByLabelText('Model'), { target: { value: 'X5' } });
    await waitFor(() => {
      const last = fieldsOf(sent.at(-1)?.body);
      expect(last).toMatchObject({ maker: 'Millbrook', name: 'X5' });
      expect(JSON.parse(last['assignment'] ?? '{}')).toEqual({
        no: 'code',
        span: 'name',
        name: 'description',
      });
    });
    // What is still on its way is not asked for at every letter.
    expect(sent.length).toBeLessThan(4);
  });

  it('mends a cell on the spot, leaves a line out, and explains a word once', async () => {
    const odd: OwnModelPreview = {
      ...PREVIEW,
      accessAsked: [{ text: '●', rows: 3 }],
      findings: [
        { line: 2, column: 'span', attention: 'stop', text: '"5/10" is not understood.', cell: '5/10' },
      ],
    };
    const { sent } = show(odd);
    await choose();
    fireEvent.change(screen.getByLabelText('Line 2, span, in other words'), { target: { value: '5' } });
    fireEvent.click(screen.getByRole('button', { name: 'Write it so' }));
    fireEvent.change(screen.getByLabelText('What ● means'), { target: { value: 'read' } });
    fireEvent.click(screen.getByRole('button', { name: 'Leave the line out' }));
    await waitFor(() => {
      const {
        mended = '',
        access = '',
        leftOut = '',
      } = fieldsOf(sent.at(-1)?.body) as Record<string, string>;
      expect([mended, access, leftOut]).toEqual(['[[2,"span","5"]]', '[["●","read"]]', '[2]']);
    });
    fireEvent.click(screen.getByRole('button', { name: 'Take them in again' }));
    await waitFor(() => expect(fieldsOf(sent.at(-1)?.body)['leftOut']).toBe('[]'));
  });

  it('keeps what was shown, for an engineer alone', async () => {
    const ready = { ...PREVIEW, maker: 'M', name: 'X', dictionary: 'm-x@1', findings: [], acceptable: true };
    show(ready, 'technician');
    await choose();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Keep as m-x@1, as it is' }).disabled).toBe(
      true,
    );
    expect(screen.getByText('It takes an engineer.')).toBeTruthy();
    const { sent, address } = show(ready);
    await choose();
    fireEvent.click(screen.getByRole('button', { name: 'Keep as m-x@1, as it is' }));
    await waitFor(() => expect(address()).toBe('/models/m-x@1'));
    expect(sent.map(({ path }) => path)).toEqual(['models/preview', 'models']);
  });
});
