// Which parameter lies behind a register, as this firmware lays out its memory.

import type { Dictionary, Parameter } from '@drive-keep/core/dictionary';

export interface Cell {
  readonly parameter: Parameter;
  /** 0 for the register at the lower address. */
  readonly word: 0 | 1;
}

export class RegisterMap {
  private readonly cells = new Map<number, Cell>();
  /** In which a 32-bit value lies; a model may have a setting for it. */
  lowFirst: boolean;

  constructor(dictionary: Dictionary) {
    this.lowFirst = dictionary.line?.wordOrder === 'low-first';
    for (const parameter of dictionary.parameters) {
      if (!parameter.register) continue;
      this.cells.set(parameter.register.address, { parameter, word: 0 });
      if (parameter.register.width === 32)
        this.cells.set(parameter.register.address + 1, { parameter, word: 1 });
    }
  }

  at(address: number): Cell | undefined {
    return this.cells.get(address);
  }

  /** The 16-bit word of a stored integer; two's complement for negative ones. */
  wordOf({ parameter, word }: Cell, stored: number): number {
    if (parameter.register?.width !== 32) return stored & 0xffff;
    const high = this.lowFirst ? word === 1 : word === 0;
    return high ? (stored >>> 16) & 0xffff : stored & 0xffff;
  }

  /** The integer from one or two words, with its sign. */
  integerOf(parameter: Parameter, words: readonly number[]): number {
    const [first = 0, second = 0] = words;
    const signed = parameter.register?.signed ?? false;
    if (parameter.register?.width !== 32) return signed && first > 0x7fff ? first - 0x1_0000 : first;
    const whole = this.lowFirst ? second * 0x1_0000 + first : first * 0x1_0000 + second;
    return signed && whole > 0x7fff_ffff ? whole - 0x1_0000_0000 : whole;
  }
}
