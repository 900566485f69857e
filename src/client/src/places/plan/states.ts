import type { CampaignAnswer } from '../../api/client';

/** States of campaigns as they are called. */
export const stateNames: Record<CampaignAnswer['state'], string> = {
  running: 'running',
  ahead: 'ahead',
  over: 'over',
  alwaysOn: 'always on',
};
