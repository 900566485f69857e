import { format } from 'date-fns';
import type { Schema } from '../../api/client';

export type Trial = Schema['TrialRunAnswer'];

/** What each step is called. */
export const stepNames: Record<Trial['steps'][number]['kind'], string> = {
  clicked: 'Clicked',
  redirected: 'Redirected',
  arrived: 'Arrived with tags',
  measured: 'Measured and sorted',
};

/** What is known of a step, in a few words; empty while nothing is. */
export function stepSays(trial: Trial, kind: Trial['steps'][number]['kind']): string {
  const { click, visit } = trial;
  const step = trial.steps.find((s) => s.kind === kind);
  if (kind === 'clicked')
    return click
      ? `${format(new Date(click.at), 'HH:mm:ss')} · ${[click.device, click.browser].filter(Boolean).join(', ')}`
      : '';
  if (kind === 'redirected')
    return step?.state === 'failed'
      ? 'the link leads nowhere'
      : step?.state === 'done'
        ? pageOf(trial.hops[0]!.url)
        : '';
  if (kind === 'arrived') return visit ? visit.page : '';
  return visit ? [visit.channel, visit.campaign, visit.placement].filter(Boolean).join(' · ') : '';
}

/** Host and path of an address. */
function pageOf(url: string): string {
  const { host, pathname } = new URL(url);
  return `to ${host}${pathname}`;
}
