import type { ArrivalsAnswer } from '../../api/client';
import { count } from '../../parts/format';

/** A time of today, and a day with its time for any other. */
const momentOf = (moment: Date): string =>
  moment.toDateString() === new Date().toDateString()
    ? moment.toLocaleTimeString('en-IE', { timeStyle: 'medium' })
    : moment.toLocaleString('en-IE', { dateStyle: 'medium', timeStyle: 'short' });

/** How far the figures go, in the reader's own time. */
export const freshness = ({ upTo, waiting }: ArrivalsAnswer['freshness']): string =>
  (upTo ? ` · up to ${momentOf(new Date(upTo))}` : '') +
  (waiting > 0 ? ` · events of ${waiting < 1_000 ? count(waiting) : '1,000 or more'} visitors are being added` : '');

/** What brought more values than are told apart. Something fills it in or forges it; who can, takes it out at its source. */
export const manyValues = ({ of, key }: { of: string; key: string | null }): string =>
  `${
    of === 'tag'
      ? `${key} brings very many different values, such as an id for each recipient`
      : of === 'keys'
        ? 'Visits bring very many different tags'
        : of === 'referrers'
          ? 'Visits come from very many different sites'
          : of === 'pages'
            ? 'Visits are on very many different pages'
            : of === 'typed'
              ? 'Very many different things are typed behind short links'
              : `Visits name very many different ${of}`
  }; new ones stand together as “(many values)”.`;
