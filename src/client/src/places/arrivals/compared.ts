/** How the address asks for campaigns side by side; their written values follow with commas between. */
export const sideBySide = 'campaigns:';

/** The campaigns an address asks for side by side. */
export const comparedCampaigns = (compare: string): string[] =>
  compare.startsWith(sideBySide) ? compare.slice(sideBySide.length).split(',').filter(Boolean) : [];
