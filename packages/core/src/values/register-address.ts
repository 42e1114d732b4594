// One number for every register of a unit: holding registers (function 3) have their protocol address, 0 to 65535; input
// registers (function 4) lie behind them. So no table of registers has to say in which of the two areas it is.

/** The first input register. */
export const INPUT_REGISTERS = 0x1_0000;

const WRITTEN = /^(input )?(\d{1,5})$/;

/** `227` or `input 227` as a unified address; nothing for all else. */
export function readRegister(text: unknown): number | undefined {
  const match = typeof text === 'string' ? WRITTEN.exec(text.trim()) : null;
  const address = Number(match?.[2]);
  if (!match || address > 0xffff) return undefined;
  return match[1] ? INPUT_REGISTERS + address : address;
}

/** The inverse of `readRegister`. */
export const showRegister = (register: number): string =>
  register >= INPUT_REGISTERS ? `input ${register - INPUT_REGISTERS}` : String(register);
