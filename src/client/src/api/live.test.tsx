import { QueryClientProvider, useQuery } from '@tanstack/react-query';
import { act, cleanup, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { live, useLiveTraffic } from './live';
import { newQueryClient } from './queryClient';

class Stream extends EventTarget {
  static opened: Stream[] = [];
  closed = false;
  constructor(readonly url: string) {
    super();
    Stream.opened.push(this);
  }
  close() {
    this.closed = true;
  }
}

let answers = { open: 0, ended: 0 };

function Page() {
  useLiveTraffic();
  const open = useQuery({ queryKey: ['open'], queryFn: () => ++answers.open, ...live });
  const ended = useQuery({ queryKey: ['ended'], queryFn: () => ++answers.ended });
  return (
    <p>
      {open.data} and {ended.data}
    </p>
  );
}

const hide = (hidden: boolean) => {
  vi.spyOn(document, 'hidden', 'get').mockReturnValue(hidden);
  document.dispatchEvent(new Event('visibilitychange'));
};

describe('live queries', () => {
  beforeEach(() => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    vi.stubGlobal('EventSource', Stream);
    Stream.opened = [];
    answers = { open: 0, ended: 0 };
    render(
      <QueryClientProvider client={newQueryClient({ staleTime: Infinity })}>
        <Page />
      </QueryClientProvider>,
    );
  });
  afterEach(() => {
    cleanup();
    vi.restoreAllMocks();
    vi.unstubAllGlobals();
    vi.useRealTimers();
  });

  it('are asked anew when traffic changed, the others are not', async () => {
    await screen.findByText('1 and 1');
    Stream.opened[0]!.dispatchEvent(new Event('still'));
    Stream.opened[0]!.dispatchEvent(new Event('changed'));
    await screen.findByText('2 and 1');
  });

  it('are asked at a pace, however much arrives', async () => {
    await screen.findByText('1 and 1');
    for (let i = 0; i < 40; i++) {
      Stream.opened[0]!.dispatchEvent(new Event('changed'));
      await act(() => vi.advanceTimersByTimeAsync(100));
    }
    expect(answers.open).toBeGreaterThanOrEqual(3);
    expect(answers.open).toBeLessThanOrEqual(5);
  });

  it('rest while the page is hidden, and catch up when it is seen', async () => {
    await screen.findByText('1 and 1');
    act(() => hide(true));
    expect(Stream.opened[0]!.closed).toBe(true);
    expect(Stream.opened).toHaveLength(1);
    act(() => hide(false));
    expect(Stream.opened).toHaveLength(2);
    await screen.findByText('2 and 1');
  });
});
