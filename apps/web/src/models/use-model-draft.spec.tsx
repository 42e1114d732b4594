import { describe, expect, it } from '@jest/globals';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen } from '../testing/screen.tsx';
import { useModelDraft } from './use-model-draft.ts';

const FILES = { model: 'model: a-b', parameters: 'code', terminals: null };
const DRAFT = {
  ...{ id: 'd', title: 'A B', changedBy: 'P', changedAt: '2026-11-26T10:00:00Z', keptAs: null },
  ...{ files: FILES, version: 3, dictionary: 'a-b@1', findings: [], gaps: [] },
};

function Draft() {
  const { data } = useModelDraft('d');
  if (!data) return <p>asking</p>;
  return (
    <>
      <textarea
        aria-label="Model"
        value={data.files.model}
        onChange={({ target }) => data.change({ model: target.value })}
      />
      <p>{data.state}</p>
    </>
  );
}

describe('a draft on the screen', () => {
  it('is brought when somebody leaves right after typing, and told as kept only when it was', async () => {
    const { sent } = showScreen('/draft', '/draft', <Draft />, {
      'GET model-drafts/d': DRAFT,
      'PUT model-drafts/d': { ...DRAFT, version: 4, files: { ...FILES, model: 'model: a-c' } },
    });
    fireEvent.change(await screen.findByLabelText('Model'), { target: { value: 'model: a-c' } });
    expect(screen.getByText('typing')).toBeTruthy();
    cleanup();
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toEqual({ files: { ...FILES, model: 'model: a-c' }, version: 3 });
  });

  it('loses nothing that was typed while it was being brought', async () => {
    const { sent } = showScreen('/draft', '/draft', <Draft />, {
      'GET model-drafts/d': DRAFT,
      'PUT model-drafts/d': { ...DRAFT, version: 4, files: { ...FILES, model: 'model: a-c' } },
    });
    const soon = globalThis.fetch;
    globalThis.fetch = async (...asked) => {
      await new Promise((resolve) => setTimeout(resolve, 300));
      return soon(...asked);
    };
    const type = (value: string) => fireEvent.change(screen.getByLabelText('Model'), { target: { value } });
    await screen.findByLabelText('Model');
    type('model: a-c');
    await screen.findByText('bringing');
    type('model: a-d');
    cleanup();
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent.map(({ body }) => body)).toEqual([
      { files: { ...FILES, model: 'model: a-c' }, version: 3 },
      { files: { ...FILES, model: 'model: a-d' }, version: 4 },
    ]);
  });
});
