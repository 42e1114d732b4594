import { describe, expect, it } from '@jest/globals';
import type { SettingsDraftView } from '@drive-keep/api';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { showScreen } from '../testing/screen.tsx';
import { useTyping } from './use-typing.ts';

const SENT = 'PUT drafts/d/fields';
const view = { id: 'd', fields: [] } as unknown as SettingsDraftView;

function Fields() {
  const { type, fields, refused, onTheWay } = useTyping(view, true);
  return (
    <>
      {['a', 'b'].map((key) => (
        <input
          key={key}
          aria-label={key}
          value={fields.find((each) => each.key === key)?.text ?? ''}
          onChange={({ target }) => type({ [key]: target.value })}
        />
      ))}
      <p>
        {onTheWay} on the way, {[...refused.keys()].join()} refused
      </p>
    </>
  );
}
const type = (key: string, value: string) =>
  fireEvent.change(screen.getByLabelText(key), { target: { value } });
const keysOf = (body: unknown) => (body as { fields: { key: string; text: string }[] }).fields;

describe('what is typed into a draft', () => {
  it('is brought when somebody goes to another screen right after typing', async () => {
    const { sent } = showScreen('/draft', '/draft', <Fields />, { [SENT]: view });
    await screen.findByLabelText('a');
    type('a', '4');
    cleanup();
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(keysOf(sent[0]?.body)).toMatchObject([{ key: 'a', text: '4' }]);
  });

  it('holds up no other field where one is refused, and is tried again when it is mended', async () => {
    const { sent } = showScreen('/draft', '/draft', <Fields />, { [SENT]: view });
    const soon = globalThis.fetch;
    globalThis.fetch = async (asked, init) => {
      if (typeof init?.body === 'string' && init.body.includes('too long'))
        return {
          ok: false,
          status: 400,
          json: () => Promise.resolve({ status: 400, detail: 'Too long.' }),
        } as Response;
      return soon(asked, init);
    };
    await screen.findByLabelText('a');
    type('a', 'too long');
    type('b', '5');
    await screen.findByText('1 on the way, a refused');
    expect(sent.map(({ body }) => keysOf(body).map(({ key }) => key))).toEqual([['b']]);
    type('a', '4');
    await screen.findByText('0 on the way, refused');
  });
});
