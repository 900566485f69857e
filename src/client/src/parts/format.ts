import { formatDistanceToNowStrict } from 'date-fns';

/** The dash that stands for a figure that can't be given. */
export const noFigure = '–';

const whole = new Intl.NumberFormat('en-IE');

/** A whole number with separators. */
export const count = (n: number): string => whole.format(n);

const parts = new Intl.NumberFormat('en-IE', { maximumFractionDigits: 1 });

/** Whole, unless a model of credit shares it out. */
export const shared = (n: number): string => parts.format(n);

/** A count with what is counted. */
export const counted = (n: number, one: string, more = `${one}s`): string => `${count(n)} ${n === 1 ? one : more}`;

// An exact half goes to the even digit, as with money; rounding the product by 100 would go by its binary error.
const percent = new Intl.NumberFormat('en-IE', {
  style: 'percent',
  minimumFractionDigits: 1,
  maximumFractionDigits: 1,
  useGrouping: false,
  roundingMode: 'halfEven',
} as Intl.NumberFormatOptions);

/** A rate as a percentage with one digit, an exact half to the even one; a dash without a rate. */
export const rate = (r: number | null | undefined): string =>
  r == null ? noFigure : percent.format(r).replace('%', ' %');

// Making a formatter takes longer than a hundred uses of it.
const moneyFormats = new Map<string, Intl.NumberFormat>();

function moneyFormat(currency: string, digits: number): Intl.NumberFormat {
  const known = moneyFormats.get(currency + digits);
  if (known) return known;
  const made = new Intl.NumberFormat('en-IE', {
    style: 'currency',
    currency,
    minimumFractionDigits: digits,
    maximumFractionDigits: digits,
  });
  moneyFormats.set(currency + digits, made);
  return made;
}

/** Money as the server rounded it. */
export function money(m: { amount: string; currency: string } | null | undefined): string {
  if (!m) return noFigure;
  // The server has rounded it to the currency's own decimals (ISO 4217); the browser's idea of them may be another.
  return moneyFormat(m.currency, m.amount.split('.')[1]?.length ?? 0).format(Number(m.amount));
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
