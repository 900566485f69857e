import type { Schema } from '../../api/client';

type Whole<T> = { [K in keyof T]-?: Exclude<T[K], undefined> };

export type Word = Whole<Schema['WordDocument']>;
export type Part = Whole<Schema['NamePart']>;
export type Pattern = Omit<Whole<Schema['PatternDocument']>, 'parts'> & { parts: Part[] };
export type Presence = Schema['Presence'];
export type Field = Omit<Whole<Schema['FieldDocument']>, 'words' | 'pattern' | 'presenceIn'> & {
  words: Word[];
  pattern: Pattern | null;
  presenceIn: Record<string, Presence>;
};
export type Condition = Whole<Schema['ConditionDocument']>;
export type Channel = Omit<Whole<Schema['ChannelDocument']>, 'conditions'> & { conditions: Condition[] };
export type Site = Whole<Schema['ReferrerDocument']>;
export type Choice = Whole<Schema['ChoiceDocument']>;
export type ReadingSystem = Whole<Schema['ReadingSystemDocument']>;
export type Severity = Schema['Severity'];

/** A whole convention; the server always sends every part of it. */
export interface ConventionDocument {
  style: Schema['TagStyle'];
  sealedKey: string | null;
  fields: Field[];
  choices: Choice[];
  channels: Channel[];
  referrers: Site[];
  severities: Record<string, Severity>;
  readBy: ReadingSystem[];
}

/** The place of a field: by its number, its key, what it means or the standard key of that; the first where nothing fits. */
export function placeOf(fields: readonly Pick<Field, 'key' | 'means'>[], at: string): number {
  const number = Number(at);
  if (Number.isInteger(number) && number >= 0 && number < fields.length) return number;
  const standard = `utm_${at}`;
  const found = [
    (f: Pick<Field, 'key' | 'means'>) => f.means === at,
    (f: Pick<Field, 'key'>) => f.key === at || f.key === standard,
  ]
    .map((fits) => fields.findIndex(fits))
    .find((i) => i >= 0);
  return found ?? 0;
}

export const newField: Field = {
  key: '',
  label: 'New field',
  means: 'byKey',
  kind: 'text',
  presence: 'offered',
  presenceIn: {},
  list: 'none',
  dateForm: 'month',
  fixed: null,
  pattern: null,
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

export const firstPattern: Pattern = {
  separator: '_',
  parts: [{ kind: 'date', of: '', form: 'month', filler: null }],
};

/** The list with one item taken out and put in at another place. */
export function dropped<T>(list: T[], from: number, to: number): T[] {
  const next = [...list];
  const [item] = next.splice(from, 1);
  if (item !== undefined) next.splice(to, 0, item);
  return next;
}

/** Two words made one: the one that goes becomes another name of the one that stays, with all its own. */
export function merged(words: Word[], from: number, into: number): Word[] {
  const gone = words[from]!;
  const kept = words[into]!;
  const aliases = [...new Set([...kept.aliases, gone.written, ...gone.aliases])].filter((a) => a !== kept.written);
  return words
    .map((word, i) => (i === into ? { ...kept, aliases } : word))
    .map((word) => (word.successor === gone.written ? { ...word, successor: kept.written } : word))
    .filter((_, i) => i !== from);
}

/** Words as lines of cells, as they can be pasted in again: word, label, other names. */
export const asLines = (words: Word[]): string =>
  words.map((w) => [w.written, w.label, ...w.aliases].join('\t')).join('\n');

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
