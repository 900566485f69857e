import { useCallback, useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { usePerson } from '../../parts/person';
import { viewOf, type View } from './view';

/** What changes in the address; null takes a part of it out. */
export type Changes = Record<string, string | string[] | null>;

/** What keeps its page when it changes. */
const keepsPage = new Set(['page', 'pick', 'visit', 'plain', 'tall', 'columns', 'stations']);

/** What the browser's Back takes back step by step; everything else is as it is left. */
const turnsBack = new Set(['rows', 'where', 'compare', 'span', 'part', 'credit', 'step']);

/** What of an address is where somebody is in a view, and not the view. */
const places = ['page', 'pick', 'visit', 'view'];

/** What of an address a view keeps. */
export function addressOf(search: URLSearchParams): string {
  const kept = new URLSearchParams(search);
  for (const place of places) kept.delete(place);
  return kept.toString();
}

/** The view the address asks for, and how it is changed. */
export function useView(): { view: View; search: URLSearchParams; set: (changes: Changes) => void } {
  const person = usePerson();
  const [search, setSearch] = useSearchParams();
  const view = useMemo(() => viewOf(search, person.today), [search, person.today]);
  const set = useCallback(
    (changes: Changes) =>
      setSearch(
        (known) => {
          const next = new URLSearchParams(known);
          if (Object.keys(changes).some((key) => !keepsPage.has(key))) next.delete('page');
          for (const [key, value] of Object.entries(changes)) {
            next.delete(key);
            for (const one of value === null ? [] : [value].flat()) next.append(key, one);
          }
          return next;
        },
        // A span taken out is a range that is dragged, step by step.
        {
          replace: !Object.entries(changes).some(
            ([key, value]) => turnsBack.has(key) && (key !== 'span' || value !== null),
          ),
        },
      ),
    [setSearch],
  );
  return { view, search, set };
}
