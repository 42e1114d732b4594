// A screen with what the server would answer, by path; what the screen sends is written down.

import type { LineView, Role, SessionView } from '@drive-keep/api';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter, Route, Routes, useLocation } from 'react-router';

export interface Sent {
  readonly method: string;
  readonly path: string;
  readonly body: unknown;
}

/** Answers by `METHOD path`; a function gets the body that was sent. */
export type Answers = Readonly<Record<string, unknown>>;

export function showScreen(address: string, route: string, screen: ReactNode, answers: Answers) {
  cleanup();
  const sent: Sent[] = [];
  globalThis.fetch = ((url: string, init: RequestInit = {}) => {
    const method = init.method ?? 'GET';
    const path = url.replace(/^\/api\//, '');
    const body: unknown = typeof init.body === 'string' ? JSON.parse(init.body) : init.body;
    if (method !== 'GET') sent.push({ method, path, body });
    const answer = answers[`${method} ${path}`] ?? answers[`${method} ${path.split('?')[0] ?? ''}`];
    const found = answer !== undefined;
    const problem = {
      type: 'test',
      title: 'Not there',
      status: 404,
      detail: `${method} ${path} is not answered`,
    };
    return Promise.resolve({
      ok: found,
      status: found ? 200 : 404,
      json: () => Promise.resolve(found ? answer : problem),
    } as Response);
  }) as typeof fetch;
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  let at = address;
  const Address = () => {
    const { pathname, search } = useLocation();
    at = pathname + search;
    return null;
  };
  render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[address]}>
        <Address />
        <Routes>
          <Route path={route} element={screen} />
          <Route path="*" element={<p>elsewhere</p>} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  return { sent, address: () => at };
}

/** Who is signed in, with what the usual plant lets that role do. */
export const signedIn = (role: string, person = 'P'): SessionView => ({
  ...{ person, signInName: 'p', role: role as Role, mustChangePassword: false, plant: 'Plant' },
  may: { write: role !== 'viewer', register: role === 'engineer' },
  decimalMark: 'point',
  isCopy: false,
});

/** Lines in use, by their names. */
export const linesNamed = (...names: readonly string[]): readonly LineView[] =>
  names.map((name, at) => ({
    ...{ id: name, name, host: '127.0.0.1', port: 5020 + at, framing: 'tcp', timeoutMs: 1000, retries: 1 },
    ...{ pauseMs: 0, largestRead: 125, units: 1, retiredAt: null, version: 1 },
  }));
