import type { Schema } from '../../api/client';

type Whole<T> = { [K in keyof T]-?: Exclude<T[K], undefined> };

export type Word = Whole<Schema['WordDocument']>;
export type Field = Omit<Whole<Schema['FieldDocument']>, 'words'> & { words: Word[] };
export type Condition = Whole<Schema['ConditionDocument']>;
export type Channel = Omit<Whole<Schema['ChannelDocument']>, 'conditions'> & { conditions: Condition[] };
export type Site = Whole<Schema['ReferrerDocument']>;

/** A whole convention; the server always sends every part of it. */
export interface ConventionDocument {
  fields: Field[];
  channels: Channel[];
  referrers: Site[];
}

export const newField: Field = {
  key: '',
  label: 'New field',
  presence: 'offered',
  list: 'none',
  case: 'lower',
  space: 'underscore',
  characters: 'anything',
  outside: 'remove',
  transliterate: false,
  longestValue: 200,
  holdsNumbers: false,
  alsoRead: [],
  hint: null,
  example: null,
  words: [],
};

/** The list with one item moved up or down; the same list where there is no place to go. */
export function moved<T>(list: T[], from: number, by: 1 | -1): T[] {
  const to = from + by;
  if (to < 0 || to >= list.length) return list;
  const next = [...list];
  [next[from], next[to]] = [next[to]!, next[from]!];
  return next;
}

/** The list with one item replaced. */
export const replaced = <T>(list: T[], at: number, item: T): T[] => list.map((one, i) => (i === at ? item : one));

/** Texts written with commas between them. */
export const listOf = (text: string): string[] =>
  text
    .split(',')
    .map((t) => t.trim())
    .filter(Boolean);

/**
 * Words from pasted cells or lines: the first cell is the written form, the second the label, the rest aliases.
 * @returns The words that are new, and how many of the pasted ones the list has already (whatever the case).
 */
export function wordsOf(pasted: string, known: Word[]): { fresh: Word[]; already: number } {
  const taken = new Set(known.flatMap((w) => [w.written, ...w.aliases]).map((t) => t.toLowerCase()));
  const fresh: Word[] = [];
  let already = 0;
  for (const line of pasted.split(/\r?\n/)) {
    const [first = '', label = '', ...aliases] = line.split('\t').map((c) => c.trim());
    if (!first) continue;
    const written = first.toLowerCase().replace(/\s+/g, '_');
    if (taken.has(written) || taken.has(first.toLowerCase())) {
      already++;
      continue;
    }
    taken.add(written);
    fresh.push({ written, label: label || first, aliases: aliases.filter(Boolean), retired: false, successor: null });
  }
  return { fresh, already };
}
