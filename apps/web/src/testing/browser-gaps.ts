// What jsdom lacks and the screens use.

import { TextDecoder, TextEncoder } from 'node:util';

class NoResize {
  observe(): void {}
  unobserve(): void {}
  disconnect(): void {}
}

Object.assign(globalThis, { TextDecoder, TextEncoder, ResizeObserver: NoResize });
const matchMedia = (media: string) => ({
  matches: false,
  media,
  addEventListener: () => undefined,
  removeEventListener: () => undefined,
});
Object.assign(window, { matchMedia });
