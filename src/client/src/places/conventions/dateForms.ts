import type { Field } from './document';

/** How dates can be written, each shown on the first of March 2026. */
export const dateForms: [Field['dateForm'], string][] = [
  ['plainDay', '20260301'],
  ['day', '2026-03-01'],
  ['month', '2026-03'],
  ['quarter', '2026q1'],
  ['week', '2026w09'],
];
