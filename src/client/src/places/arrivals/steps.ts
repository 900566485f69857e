/** What a step can be told by, in the order it is offered. */
export const stepKinds = {
  page: 'page seen',
  pageBegins: 'page that begins',
  pagePattern: 'page like',
  event: 'event',
  clicked: 'spot clicked',
  conversion: 'conversion',
} as const;

export type StepKind = keyof typeof stepKinds;

/** An example of what stands behind each. */
export const stepExamples: Record<StepKind, string> = {
  page: '/shop',
  pageBegins: '/shop/',
  pagePattern: '/orders/*/thanks',
  event: 'basket begun',
  clicked: 'header banner',
  conversion: 'any kind',
};

export const fewestSteps = 2;
export const mostSteps = 8;

export interface Step {
  kind: StepKind;
  text: string;
}

/** A step as an address has it; what is none is a page without an address. */
export function stepOf(text: string): Step {
  const colon = text.indexOf(':');
  const kind = (Object.keys(stepKinds) as StepKind[]).find(
    (k) => k.toLowerCase() === text.slice(0, Math.max(0, colon)).toLowerCase(),
  );
  return kind ? { kind, text: text.slice(colon + 1).trim() } : { kind: 'page', text: '' };
}

export const stepText = ({ kind, text }: Step): string => `${kind}:${text.trim()}`;

/** Whether it says what it is about. */
export const isWhole = ({ kind, text }: Step): boolean => kind === 'conversion' || text.trim() !== '';

/** What a step is called. */
export function stepSays({ kind, text }: Step): string {
  if (kind === 'conversion') return text ? `Converted: ${text}` : 'Converted';
  if (kind === 'event') return text;
  if (kind === 'clicked') return `Clicked ${text}`;
  if (kind === 'pageBegins') return `${text}…`;
  return text;
}
