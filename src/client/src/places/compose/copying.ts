import type { ComposeAnswer, SavedLink } from '../../api/client';

/** A link of the grid with what it is called. */
export interface Copied {
  placement: string;
  answer: ComposeAnswer;
  saved?: SavedLink;
}

/** The short link, with what a platform fills in behind it where that is carried through. */
const shortOf = ({ saved, answer }: Copied) =>
  saved?.shortUrl && saved.copyUrl.startsWith(saved.shortUrl)
    ? saved.copyUrl
    : (saved?.shortUrl ?? answer.existing?.shortUrl ?? null);

/** Forms a link can be copied in, each with its key. */
export const copyForms = [
  { key: 'c', name: 'Link', of: (link: Copied) => link.answer.url },
  {
    key: 's',
    name: 'Short link',
    of: (link: Copied) => shortOf(link),
  },
  { key: 'p', name: 'Parameters', of: (link: Copied) => link.answer.parameterText },
  { key: 'e', name: 'Encoded', of: (link: Copied) => link.answer.forms?.encoded ?? null },
  { key: 'h', name: 'HTML', of: (link: Copied) => link.answer.forms?.html ?? null },
  { key: 'm', name: 'Markdown', of: (link: Copied) => link.answer.forms?.markdown ?? null },
] as const;

/** The form of every link that has one, a line each. */
export function linesOf(links: Copied[], form: (typeof copyForms)[number]): string {
  return links
    .map(form.of)
    .filter((text): text is string => text !== null)
    .join('\n');
}

/** The links as a table for a sheet: cells with tabs between them, quoted where they must be. */
export function tableOf(links: Copied[]): string {
  const fields =
    links[0]?.answer.fields.filter((f) => links.some((l) => l.answer.fields.some((x) => x.key === f.key && x.value))) ??
    [];
  const head = ['Placement', 'Link', 'Short link', ...fields.map((f) => f.label)];
  const rows = links.map((l) => [
    l.placement,
    l.answer.url ?? '',
    (l.saved && shortOf(l)) ?? '',
    ...fields.map((f) => l.answer.fields.find((x) => x.key === f.key)?.value ?? ''),
  ]);
  return [head, ...rows].map((row) => row.map(cellOf).join('\t')).join('\n');
}

/** A pasted cell that begins like a formula would run as one. */
function cellOf(text: string): string {
  const safe = /^[=+\-@]/.test(text) ? `'${text}` : text;
  return /["\t\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
