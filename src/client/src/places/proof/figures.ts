import type { Schema } from '../../api/client';

export type Figure = Schema['ReconciledAnswer'];

/** What is counted. */
export const kindNames: Record<Figure['kind'], string> = {
  shown: 'shown',
  sent: 'sent',
  delivered: 'delivered',
  opened: 'opened',
  clicks: 'clicks',
  visits: 'visits',
  conversions: 'conversions',
};

/** What is to be said of a gap. */
export const verdictNames: Record<Figure['verdict'], string> = {
  tooFew: 'too few to tell',
  quiet: 'small',
  ordinary: 'ordinary',
  finding: 'look into it',
  more: 'more here than there',
};

/** Why figures differ. */
export const causeNames: Record<Figure['causes'][number]['kind'], string> = {
  tagsLost: 'Tags lost on the way',
  notMeasured: 'Page not measured',
  pageBroken: 'Page broken',
  programs: 'Programs',
  doubleTaps: 'Double taps',
  strays: 'Strays',
  reused: 'Printed link used elsewhere',
  blocked: 'Not measured in the browser',
  new: 'Too new',
  withoutClick: 'Shared without the short link',
  unexplained: 'Not explained',
};

/** What of ours stands beside a figure; said in full where it is another kind. */
export const besideOf = (figure: Figure): string =>
  figure.beside === figure.kind
    ? kindNames[figure.beside]
    : `${kindNames[figure.beside]}, not ${kindNames[figure.kind]}`;

/** What their figures say of one another: what each is a share of. */
const shares: [part: keyof Figure['all'], whole: keyof Figure['all'], says: string][] = [
  ['clicks', 'shown', 'of shown'],
  ['delivered', 'sent', 'of sent'],
  ['opened', 'delivered', 'of delivered'],
  ['clicks', 'delivered', 'of delivered'],
  ['conversions', 'clicks', 'of clicks'],
];

/** Rates among another system's own figures; those of nothing are left out. */
export const sharesOf = (all: Figure['all']): { part: string; says: string; share: number }[] =>
  shares.flatMap(([part, whole, says]) => {
    const [some, of] = [all[part], all[whole]];
    return some != null && of != null && of > 0 ? [{ part: kindNames[part], says, share: some / of }] : [];
  });

/** The cause that explains the most; null without any. */
export const likeliest = (figure: Figure): Figure['causes'][number] | null =>
  figure.causes.reduce<Figure['causes'][number] | null>(
    (most, c) => (most && most.missing >= c.missing ? most : c),
    null,
  );
