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
HTMLElement.prototype.scrollIntoView = () => undefined;
Object.assign(window, { matchMedia, scrollTo: () => undefined });

// Nothing has a size in jsdom, and lists that draw only what is in sight would draw nothing.
for (const [name, size] of [
  ['clientHeight', 600],
  ['clientWidth', 1200],
] as const)
  Object.defineProperty(HTMLElement.prototype, name, { configurable: true, get: () => size });
