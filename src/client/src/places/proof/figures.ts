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
