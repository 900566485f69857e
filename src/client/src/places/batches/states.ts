/** States of batches as they are called. */
export const stateNames: Record<string, string> = {
  draft: 'not run yet',
  running: 'running',
  finished: 'finished',
  cancelled: 'cancelled',
  broken: 'interrupted',
};

/** What came or would come of a row. */
export const outcomeNames: Record<string, string> = {
  new: 'new',
  existing: 'exists already',
  changed: 'changed',
  unchanged: 'unchanged',
  stopped: 'stopped',
  empty: 'empty',
};
