/** What is called otherwise than by its code with spaces. */
const names: Record<string, string> = {
  'approved-host': 'host',
  'code-logo': 'logo of codes',
  'conversion-kind': 'conversion',
  'convention-published': 'convention',
  'link-filing': 'link',
  'link-placed': 'share text placed',
  'link-route': 'where a link leads',
  'link-shortened': 'short link',
  'passing-host': 'host people pass through',
  'refused-host': 'blocked host',
  'result-page': 'results page',
  retention: 'how long visits are kept',
  'short-domain-first': 'default short domain',
  'slugs-imported': 'imported short links',
};

/** What a kind of change is called. */
export const kindName = (code: string): string => names[code] ?? code.replaceAll('-', ' ');

/** What differs, key by key. */
export interface Difference {
  key: string;
  /** Null where it was not there. */
  before: string | null;
  after: string | null;
}

/** The values that differ between two states of a thing; all of them for one that is new or gone. */
export function differencesOf(before: unknown, after: unknown): Difference[] {
  const was = objectOf(before);
  const is = objectOf(after);
  return [...new Set([...Object.keys(was), ...Object.keys(is)])]
    .map((key) => ({ key: wordsOf(key), before: textOf(was[key]), after: textOf(is[key]) }))
    .filter((d) => d.before !== d.after);
}

const objectOf = (value: unknown): Record<string, unknown> =>
  value !== null && typeof value === 'object' && !Array.isArray(value)
    ? (value as Record<string, unknown>)
    : value === null || value === undefined
      ? {}
      : { value };

/** `largestValue` as two words. */
const wordsOf = (key: string): string => key.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`).trim();

function textOf(value: unknown): string | null {
  if (value === null || value === undefined || value === '') return null;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string' || typeof value === 'number') return String(value);
  if (Array.isArray(value)) return value.length ? value.map((v) => textOf(v) ?? '').join(', ') : null;
  const parts = Object.entries(value as Record<string, unknown>).map(
    ([key, v]) => `${wordsOf(key)} ${textOf(v) ?? '–'}`,
  );
  return parts.length ? parts.join('; ') : null;
}
