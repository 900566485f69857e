import type { Schema } from '../../api/client';

/** Somebody is taken to be there for so long after the last thing that was heard, in milliseconds. */
export const presence = 5 * 60_000;

/** Where visits whose visitors are still there came from, the most first. */
export function present(visits: readonly Schema['VisitAnswer'][], now: number): { source: string; visits: number }[] {
  const found = new Map<string, number>();
  for (const visit of visits) {
    if (Date.parse(visit.startedAt) + visit.seconds * 1_000 < now - presence) continue;
    const source = visit.source ?? 'no source';
    found.set(source, (found.get(source) ?? 0) + 1);
  }
  return [...found]
    .map(([source, count]) => ({ source, visits: count }))
    .sort((a, b) => b.visits - a.visits || a.source.localeCompare(b.source));
}
