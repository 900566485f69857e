import { QueryClientProvider } from '@tanstack/react-query';
import { cleanup, configure, fireEvent, render, screen } from '@testing-library/react';
import type { ReactElement } from 'react';
import { MemoryRouter } from 'react-router';
import { afterEach, vi } from 'vitest';
import { api } from '../api/client';
import { newQueryClient } from '../api/queryClient';
import { PersonContext } from '../parts/person';

/** What was sent to the server. */
interface Sent {
  call: string;
  body?: unknown;
  path?: Record<string, string>;
  query?: Record<string, unknown>;
}

/** An answer, or a sentence with which the server refuses. */
type Answer = { data: unknown } | { refused: string } | ((sent: Sent) => unknown);

// Machines are shared: what is awaited is waited for, not timed.
configure({ asyncUtilTimeout: 60_000 });

// What a browser has and this document doesn't: lists measure themselves and scroll to what is chosen.
Element.prototype.scrollIntoView ??= () => {};
// What is drawn only where it is seen needs room to be seen in.
for (const side of ['clientWidth', 'clientHeight'] as const)
  Object.defineProperty(Element.prototype, side, { configurable: true, get: () => 1_000 });
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};

/** Chooses an option of a list, both by what they say. */
export async function choose(list: string | RegExp, option: string | RegExp) {
  fireEvent.click(screen.getByLabelText(list));
  fireEvent.click(await screen.findByRole('option', { name: option }));
}

/** What the options of a list say, in their order. */
export async function optionsOf(list: string | RegExp): Promise<(string | null)[]> {
  fireEvent.click(screen.getByLabelText(list));
  const says = (await screen.findAllByRole('option')).map((o) => o.textContent);
  fireEvent.keyDown(screen.getByRole('listbox'), { key: 'Escape' });
  return says;
}

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

/**
 * Shows a part of the interface to somebody with a role, with a server that answers from a table such as
 * `{ 'GET /api/v1/links/topics': { data: [] } }`. What is not in the table is answered with nothing.
 * @returns What was sent so far that changes something or asks for a count.
 */
export function show(
  part: ReactElement,
  answers: Record<string, Answer> = {},
  role: 'owner' | 'editor' | 'viewer' = 'owner',
  address = '/',
): Sent[] {
  const sent: Sent[] = [];
  for (const method of ['GET', 'POST', 'PUT', 'DELETE'] as const) {
    vi.spyOn(api, method).mockImplementation(((path: string, given: GivenCall = {}) => {
      const asked = {
        call: `${method} ${path}`,
        body: given.body,
        path: given.params?.path,
        query: given.params?.query,
      };
      if (method !== 'GET') sent.push(asked);
      const answer = answers[asked.call];
      if (answer && 'refused' in answer)
        return Promise.resolve({ error: { detail: answer.refused }, response: new Response(null, { status: 422 }) });
      const data = typeof answer === 'function' ? answer(asked) : (answer?.data ?? []);
      return Promise.resolve({ data, response: new Response() });
    }) as never);
  }

  const queries = newQueryClient({ retry: false });
  render(
    <MemoryRouter initialEntries={[address]}>
      <QueryClientProvider client={queries}>
        <PersonContext value={{ name: 'Orla Fenwick', role, today: '2026-11-29' } as never}>{part}</PersonContext>
      </QueryClientProvider>
    </MemoryRouter>,
  );
  return sent;
}

interface GivenCall {
  body?: unknown;
  params?: { path?: Record<string, string>; query?: Record<string, unknown> };
}
