// What the register takes, whichever way it comes in.

export const CRITICALITIES = ['low', 'middle', 'high'] as const;

export const TAG = /^[A-Za-z0-9][A-Za-z0-9_-]{1,29}$/;

/** Serial numbers are 32 bits without a sign on every line. */
export const MOST_SERIAL = 0xffff_ffff;
