import type { Schema } from '../../api/client';

/** Something that arrived, as the live column shows it. */
export interface Arrived {
  id: string;
  at: string;
  /** Who began the trial it is; undefined for a visit that counts. */
  trial?: string;
  channel: string;
  source: string | null;
  medium: string | null;
  campaign: string | null;
  page: string;
}

/** Visits, and trials that arrived no earlier than the first of them, the newest first. */
export function inOrder(
  visits: readonly Schema['VisitAnswer'][],
  trials: readonly Schema['TrialRunAnswer'][],
): Arrived[] {
  const oldest = visits.at(-1)?.startedAt ?? '';
  const tried = trials.flatMap(({ id, startedBy, visit }): Arrived[] =>
    visit && visit.startedAt >= oldest
      ? [
          {
            id,
            at: visit.startedAt,
            trial: startedBy,
            channel: visit.channel,
            source: visit.source,
            medium: visit.medium,
            campaign: visit.campaign,
            page: visit.page,
          },
        ]
      : [],
  );
  return [
    ...tried,
    ...visits.map((v) => ({
      id: v.id,
      at: v.startedAt,
      channel: v.channel,
      source: v.source,
      medium: v.medium,
      campaign: v.campaign,
      page: v.landingPage,
    })),
  ].sort((a, b) => Date.parse(b.at) - Date.parse(a.at));
}
