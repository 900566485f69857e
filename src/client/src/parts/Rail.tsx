import {
  ArrowRightToLine,
  CalendarRange,
  Building2,
  BadgeCheck,
  Library,
  ListChecks,
  Moon,
  PenLine,
  Sheet,
  Sun,
} from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { NavLink, useNavigate } from 'react-router';
import type { AccountState } from '../api/client';
import { findingsQuery } from '../api/queries';
import { counted } from './format';
import { roleNames } from './person';
import { applyTheme, shownTheme } from './theme';

/** The places that exist, in the order of the work. */
export const places = [
  { path: '/plan', name: 'Plan', icon: CalendarRange },
  { path: '/conventions', name: 'Conventions', icon: ListChecks },
  { path: '/compose', name: 'Compose', icon: PenLine },
  { path: '/batches', name: 'Batches', icon: Sheet },
  { path: '/ledger', name: 'Ledger', icon: Library },
  { path: '/arrivals', name: 'Arrivals', icon: ArrowRightToLine },
  { path: '/proof', name: 'Proof', icon: BadgeCheck },
];

interface RailProps {
  person: NonNullable<AccountState['person']>;
  onSignOut: () => void;
}

/** The rail at the left: places like stations on a route, and the person at its foot. */
export function Rail({ person, onSignOut }: RailProps) {
  const [theme, setTheme] = useState(shownTheme());
  const initials = initialsOf(person.name);
  const go = useNavigate();
  const open = useQuery(findingsQuery()).data?.open ?? 0;
  function switchTheme() {
    const next = theme === 'dark' ? 'light' : 'dark';
    applyTheme(next);
    setTheme(next);
  }
  return (
    <nav
      aria-label="Places"
      className="flex w-[84px] shrink-0 flex-col items-center border-r border-line bg-sheet py-3 max-sm:w-full max-sm:flex-row max-sm:gap-2 max-sm:border-t max-sm:border-r-0 max-sm:px-2 max-sm:py-1"
    >
      <span
        title={person.workspace}
        className="mb-4 flex size-10 max-sm:hidden items-center justify-center rounded bg-accent font-semibold text-accent-ink"
        aria-label={person.workspace}
        role="img"
      >
        {initialsOf(person.workspace)}
      </span>
      <ul className="relative flex flex-col gap-1 max-sm:flex-1 max-sm:flex-row max-sm:justify-between">
        <span
          aria-hidden
          className="absolute top-5 bottom-9 left-1/2 w-px -translate-x-1/2 bg-line-strong max-sm:hidden"
        />
        {places.map(({ path, name, icon: Icon }) => (
          <li key={path} className="relative">
            <NavLink
              to={path}
              className="group flex w-[76px] flex-col max-sm:w-10 items-center gap-1 rounded py-1.5 text-xs text-quiet aria-[current=page]:font-medium aria-[current=page]:text-ink"
            >
              <span className="flex size-8 items-center justify-center rounded-full border border-line-strong bg-sheet group-hover:border-accent group-aria-[current=page]:border-accent group-aria-[current=page]:bg-accent group-aria-[current=page]:text-accent-ink">
                <Icon size={16} strokeWidth={1.5} />
              </span>
              {path === '/proof' && open > 0 && (
                <span
                  aria-hidden
                  title={`${counted(open, 'open finding')}`}
                  className="absolute top-0 left-1/2 ml-1.5 min-w-4.5 rounded-full border border-sheet bg-warning px-1 text-center text-[11px] leading-4 font-semibold text-sheet tabular-nums"
                >
                  {open > 99 ? '99+' : open}
                </span>
              )}
              <span className="bg-sheet px-1 max-sm:sr-only">
                {name}
                {path === '/proof' && open > 0 && <span className="sr-only">, {counted(open, 'open finding')}</span>}
              </span>
            </NavLink>
          </li>
        ))}
      </ul>
      <div className="mt-auto flex flex-col items-center gap-2 max-sm:mt-0">
        <NavLink
          to="/workspace"
          aria-label="Workspace settings: keys, sites, short domains, hosts"
          title="API keys"
          className="rounded p-2 text-quiet hover:text-ink aria-[current=page]:text-accent max-sm:hidden"
        >
          <Building2 size={16} strokeWidth={1.5} />
        </NavLink>
        <button
          type="button"
          onClick={switchTheme}
          aria-label={theme === 'dark' ? 'Show the light theme' : 'Show the dark theme'}
          className="rounded p-2 text-quiet hover:text-ink max-sm:hidden"
        >
          {theme === 'dark' ? <Sun size={16} strokeWidth={1.5} /> : <Moon size={16} strokeWidth={1.5} />}
        </button>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger
            aria-label={`${initials}: ${person.name}, ${roleNames[person.role]}`}
            className="flex size-9 items-center justify-center rounded-full border border-line-strong text-xs font-medium hover:border-accent"
          >
            {initials}
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content side="right" align="end" sideOffset={8} className="floating z-40 w-60 p-1">
              <div className="px-2 py-1.5">
                <div className="font-medium">{person.name}</div>
                <div className="caption">
                  {roleNames[person.role]} · {person.mail}
                </div>
                <div className="caption">{person.workspace}</div>
              </div>
              <DropdownMenu.Item
                onSelect={() => void go('/account')}
                className="rounded px-2 py-1.5 data-[highlighted]:bg-accent-wash"
              >
                Password and sessions
              </DropdownMenu.Item>
              <DropdownMenu.Item onSelect={onSignOut} className="rounded px-2 py-1.5 data-[highlighted]:bg-accent-wash">
                Sign out
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </div>
    </nav>
  );
}

const initialsOf = (name: string): string =>
  name
    .split(' ')
    .map((word) => word[0])
    .slice(0, 2)
    .join('');
