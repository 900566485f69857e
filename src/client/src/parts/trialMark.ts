import type { Schema } from '../api/client';

/** The mark of a trial's verdict; none while nothing is known. */
export const markOf = (verdict: Schema['TrialRunAnswer']['verdict']): 'good' | 'warning' | 'error' | undefined =>
  verdict === 'works'
    ? 'good'
    : verdict === 'worksWithFindings'
      ? 'warning'
      : verdict === 'fails'
        ? 'error'
        : undefined;
