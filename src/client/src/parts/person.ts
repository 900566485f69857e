import { createContext, use } from 'react';
import type { AccountState } from '../api/client';

type Person = NonNullable<AccountState['person']>;

/** Who is signed in; set by the frame. */
export const PersonContext = createContext<Person | null>(null);

/** The person signed in. */
export function usePerson(): Person {
  const person = use(PersonContext);
  if (!person) throw new Error('Only places inside the frame know who is signed in.');
  return person;
}

/** Roles as people read them. */
export const roleNames: Record<Person['role'], string> = {
  owner: 'Owner',
  editor: 'Editor',
  viewer: 'Viewer',
  shortener: 'Shortener',
  measuring: 'Measuring',
};
