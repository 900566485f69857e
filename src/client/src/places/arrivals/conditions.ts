import { labelOf, type OwnDimension } from './dimensions';
import { rowName } from './rowName';

/** How a value is compared, by the word calls have for it. */
export const tests = { is: 'is', not: 'is not', contains: 'contains', in: 'is one of' } as const;

export type Test = keyof typeof tests;

/** What visits are narrowed by: one field, compared with a value, or for `in` with several. */
export interface Condition {
  field: string;
  test: Test;
  /** An empty one stands for visits without a value. */
  values: string[];
}

/** The condition that narrows to one row. */
export const conditionOf = (field: string, key: string | null): string => `${field}:is:${key ?? ''}`;

/** What a condition says; a value may hold colons. Null where it says nothing. */
export function partsOf(condition: string): { field: string; test: Test; value: string } | null {
  const [field, test, ...value] = condition.split(':');
  return field && test && test in tests && value.length ? { field, test: test as Test, value: value.join(':') } : null;
}

/** The conditions of an address; those of one field that may be one of several values are one. */
export function conditionsOf(where: readonly string[]): Condition[] {
  const found: Condition[] = [];
  for (const { field, test, value } of where.map(partsOf).filter((p) => p !== null)) {
    const same = test === 'in' ? found.find((c) => c.field === field && c.test === 'in') : undefined;
    if (same) same.values.push(value);
    else found.push({ field, test, values: [value] });
  }
  return found;
}

/** Conditions as an address has them. */
export const whereOf = (conditions: readonly Condition[]): string[] =>
  conditions.flatMap((c) => c.values.map((value) => `${c.field}:${c.test}:${value}`));

/** The same conditions with one more; one that is there already stays once. */
export function withCondition(where: readonly string[], more: string): string[] {
  return where.includes(more) ? [...where] : [...where, more];
}

/** A condition as people read it. */
export const conditionSays = (
  { field, test, values }: Condition,
  own: readonly OwnDimension[],
  names?: Record<string, string>,
): string =>
  `${labelOf(field, own)} ${tests[test]} ${values
    .map((v) => (test === 'contains' ? `“${v}”` : rowName(field, v || null, names)))
    .join(', ')}`;
