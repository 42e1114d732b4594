// What a parameter does whatever the model. A text becomes one where it enters: at a cell of a catalogue, at an address of the
// API, and at a name that stands in code, which a test holds against the vocabulary.

declare const brand: unique symbol;
/** What a parameter does whatever the model: `ramp.up`, `input.3.function`. */
export type Meaning = string & { readonly [brand]: 'Meaning' };

export const meaningOf = (name: string): Meaning => name as Meaning;
