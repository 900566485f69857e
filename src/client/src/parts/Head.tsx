import type { ReactNode } from 'react';

/** The head of a place: its title, the state of things in one line, and what can be done. */
export function Head({ title, state, children }: { title: string; state?: ReactNode; children?: ReactNode }) {
  return (
    <header className="flex h-14 shrink-0 items-center gap-4 border-b border-line px-5 max-sm:h-auto max-sm:flex-wrap max-sm:gap-2 max-sm:px-3 max-sm:py-2">
      <h1 className="text-lg font-semibold">{title}</h1>
      <p className="min-w-0 flex-1 truncate text-quiet max-sm:order-last max-sm:basis-full" aria-live="polite">
        {state}
      </p>
      {children}
    </header>
  );
}
