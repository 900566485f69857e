/** How conversions and revenue are shared out over the visits before them. */
export interface Credit {
  /** The model and its settings, as calls have them: `first`, `ends:35-35`, `fading:10`. */
  rule: string;
  /** Another one each row is compared with; empty for none. */
  beside: string;
  /** Days before a conversion in which a visit may lie. */
  days: number;
}

/** Models in the order they are offered, each with its settings where it has any. */
export const models = {
  last: 'Last touch',
  lastTagged: 'Last tagged touch',
  first: 'First touch',
  equal: 'Equal parts',
  ends: 'Ends',
  fading: 'Fading',
} as const;

export type Model = keyof typeof models;

/** What each model does. */
export const modelHints: Record<Model, string> = {
  last: 'All to the converting visit itself.',
  lastTagged: 'All to the last visit that came by a link or with tags.',
  first: 'All to the first visit.',
  equal: 'As much to each visit.',
  ends: 'Fixed shares to the first and the last visit; those between share the rest.',
  fading: 'Less the longer ago: half as much for each half-life.',
};

export const usualDays = 45;
export const mostDays = 90;
const usualEnds = [35, 35] as const;
const usualHalfLife = 10;

/** A model with its settings. */
export interface Rule {
  model: Model;
  firstShare: number;
  lastShare: number;
  halfLife: number;
}

const whole = (text: string | undefined, least: number, most: number): number | null =>
  text !== undefined && /^\d{1,3}$/.test(text) && Number(text) >= least && Number(text) <= most ? Number(text) : null;

/** The model a text names; null for anything else. */
export function ruleOf(text: string): Rule | null {
  const [name, settings] = text.split(':') as [string, string | undefined];
  const model = (Object.keys(models) as Model[]).find((m) => m.toLowerCase() === name.toLowerCase());
  if (!model) return null;
  const rule: Rule = { model, firstShare: usualEnds[0], lastShare: usualEnds[1], halfLife: usualHalfLife };
  if (settings === undefined) return rule;
  if (model === 'ends') {
    const [first, last, more] = settings.split('-');
    const [firstShare, lastShare] = [whole(first, 1, 99), whole(last, 1, 99)];
    return firstShare && lastShare && firstShare + lastShare <= 100 && more === undefined
      ? { ...rule, firstShare, lastShare }
      : null;
  }
  const halfLife = model === 'fading' ? whole(settings, 1, mostDays) : null;
  return halfLife ? { ...rule, halfLife } : null;
}

/** A model as calls have it. */
export const ruleText = (rule: Rule): string =>
  rule.model === 'ends'
    ? `ends:${rule.firstShare}-${rule.lastShare}`
    : rule.model === 'fading'
      ? `fading:${rule.halfLife}`
      : rule.model;

/** What an address asks of credit; null where conversions stand with their own visits. */
export function creditOf(search: URLSearchParams): Credit | null {
  const rule = ruleOf(search.get('credit') ?? '');
  const beside = ruleOf(search.get('creditBeside') ?? '');
  return (
    rule && {
      rule: ruleText(rule),
      beside: beside ? ruleText(beside) : '',
      days: whole(search.get('creditDays') ?? undefined, 1, mostDays) ?? usualDays,
    }
  );
}

/** The same as calls ask for it. */
export const creditAsked = (credit: Credit | null) =>
  credit
    ? {
        credit: credit.rule,
        ...(credit.beside && { creditBeside: credit.beside }),
        ...(credit.days !== usualDays && { creditDays: credit.days }),
      }
    : {};

const daysOf = (days: number): string => (days === 1 ? '1 day' : `${days} days`);

/** What a model is called, with its settings. */
export function nameOfRule(text: string): string {
  const rule = ruleOf(text);
  if (!rule) return text;
  if (rule.model === 'ends') return `ends (${rule.firstShare} % first, ${rule.lastShare} % last)`;
  if (rule.model === 'fading') return `fading (half each ${daysOf(rule.halfLife)})`;
  return models[rule.model].toLowerCase();
}

/** What a view says that has a model. */
export const creditSentence = ({ rule, beside, days }: Credit): string =>
  `Conversions and revenue by ${nameOfRule(rule)}, visits up to ${daysOf(days)} before each count${
    beside ? `; gained by ${nameOfRule(beside)}` : ''
  }`;
