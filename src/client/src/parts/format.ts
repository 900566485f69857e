import { formatDistanceToNowStrict } from 'date-fns';

/** The dash that stands for a figure that can't be given. */
export const noFigure = '–';

const whole = new Intl.NumberFormat('en-IE');

/** A whole number with separators. */
export const count = (n: number): string => whole.format(n);

/** A rate as a percentage with one digit; a dash without one. */
export const rate = (r: number | null | undefined): string => (r == null ? noFigure : `${(r * 100).toFixed(1)} %`);

/** Money as the server rounded it. */
export function money(m: { amount: string; currency: string } | null | undefined): string {
  if (!m) return noFigure;
  return new Intl.NumberFormat('en-IE', { style: 'currency', currency: m.currency }).format(Number(m.amount));
}

/** Seconds as minutes and seconds. */
export function duration(seconds: number | null | undefined): string {
  if (seconds == null) return noFigure;
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** How long ago a moment was. */
export const ago = (moment: string): string => formatDistanceToNowStrict(new Date(moment), { addSuffix: true });

/** A moment in full, in the reader's zone. */
export const exact = (moment: string): string =>
  new Date(moment).toLocaleString('en-IE', { dateStyle: 'medium', timeStyle: 'medium' });
