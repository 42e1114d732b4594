import { describe, expect, it } from '@jest/globals';
import { factsIn, withFact } from '@drive-keep/core/dictionary';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { SchemaForm, type JsonSchema } from './schema-form.tsx';

/** A piece of docs/formats/model.schema.json, with each kind of fact. */
const SCHEMA: JsonSchema = {
  type: 'object',
  $defs: { register: { oneOf: [{ type: 'integer' }, { type: 'string' }] } },
  properties: {
    line: {
      type: 'object',
      required: ['word_order', 'largest_read'],
      properties: {
        word_order: { enum: ['high-first', 'low-first'] },
        largest_read: { type: 'integer' },
        bridge_gaps: { type: 'boolean' },
        rating: { $ref: '#/$defs/register' },
      },
    },
    ratings: {
      type: 'array',
      items: {
        type: 'object',
        required: ['id', 'facts'],
        properties: {
          id: { type: 'string' },
          facts: { type: 'object', additionalProperties: { type: 'string' } },
        },
      },
    },
  },
};

function Editor({ begin }: { begin: string }) {
  const [now, setNow] = useState(begin);
  return (
    <>
      <pre data-testid="text">{now}</pre>
      <SchemaForm
        root={SCHEMA}
        schema={SCHEMA}
        value={factsIn(now) ?? {}}
        path={[]}
        disabled={false}
        change={(path, value) => setNow(withFact(now, path, value) ?? now)}
      />
    </>
  );
}

const text = (): string => screen.getByTestId('text').textContent ?? '';

function edit(begin: string): void {
  cleanup();
  render(<Editor begin={begin} />);
}

const leave = (label: string, value: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
  fireEvent.blur(screen.getByLabelText(label));
};

describe('a form drawn from a schema', () => {
  it('makes a group with what is required, and fills it in fact by fact', () => {
    edit('');
    fireEvent.click(screen.getByRole('button', { name: '+ Line' }));
    expect(factsIn(text())).toEqual({ line: { word_order: 'high-first', largest_read: 0 } });
    fireEvent.change(screen.getByLabelText('Word order'), { target: { value: 'low-first' } });
    leave('Largest read', '20');
    fireEvent.change(screen.getByLabelText('Bridge gaps'), { target: { value: 'true' } });
    leave('Rating', 'input 900');
    expect(factsIn(text())).toEqual({
      line: { word_order: 'low-first', largest_read: 20, bridge_gaps: true, rating: 'input 900' },
    });
  });

  it('takes a fact away when its field is emptied, and a register as a number where it is one', () => {
    edit('line: { word_order: low-first, largest_read: 20, rating: 900 } # of the manual\n');
    leave('Rating', '');
    expect(text()).toContain('# of the manual');
    expect(factsIn(text())).toEqual({ line: { word_order: 'low-first', largest_read: 20 } });
    leave('Rating', '901');
    expect(factsIn(text())).toMatchObject({ line: { rating: 901 } });
  });

  it('adds rows and facts of a name of one’s own, and leaves what is no number to the check', () => {
    edit('ratings:\n  - id: A\n    facts: {}\n');
    fireEvent.click(screen.getByRole('button', { name: '+ one more' }));
    expect(factsIn(text())).toEqual({
      ratings: [
        { id: 'A', facts: {} },
        { id: '', facts: {} },
      ],
    });
    fireEvent.change(screen.getAllByLabelText('Name of a further fact')[0] as HTMLElement, {
      target: { value: 'heavy' },
    });
    fireEvent.submit(screen.getAllByLabelText('Name of a further fact')[0] as HTMLElement);
    leave('heavy', '3.70');
    expect(factsIn(text())).toMatchObject({ ratings: [{ id: 'A', facts: { heavy: '3.70' } }, {}] });
    edit('line: { largest_read: 20 }\n');
    leave('Largest read', 'many');
    expect(factsIn(text())).toEqual({ line: { largest_read: 'many' } });
  });
});
