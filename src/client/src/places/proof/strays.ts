import type { Schema } from '../../api/client';

export type StrayGroup = Schema['StrayGroupAnswer'];
type Assignment = Schema['AssignStray'];

/** What is wrong, in a few words. */
export const kinds: Record<StrayGroup['kind'], string> = {
  unknownValue: 'unknown value',
  swapped: 'source and medium swapped',
  misspeltKey: 'key nobody reads',
  secondQuestionMark: 'tags after a second ?',
  writtenOtherwise: 'case or spaces',
};

/** A stray as it arrived. */
export const arrived = (stray: StrayGroup['strays'][number]): string =>
  stray.key ?? Object.values(stray.when).join(' / ');

/** A group is told apart by what it is and what it says first. */
export const idOf = (group: StrayGroup): string =>
  [group.kind, group.field, group.likely, arrived(group.strays[0]!)].join('|');

/**
 * Strays of a group as assignments.
 * @param means The word, the campaign's value, or the field a key is read as; what is likely where it is left out.
 */
export function assignmentsOf(group: StrayGroup, chosen: ReadonlySet<string>, means: string): Assignment[] {
  return group.strays
    .filter((stray) => chosen.has(arrived(stray)))
    .map((stray) => {
      if (stray.key != null) return { key: stray.key, field: means };
      const own = group.kind === 'swapped' || group.kind === 'secondQuestionMark';
      return { when: stray.when, then: own ? stray.then : { [group.field!]: means } };
    });
}
