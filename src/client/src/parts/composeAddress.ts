/**
 * The address of Compose with one link in it, which it opens, and values typed for it.
 * @param page The page's address.
 * @param placement Id of the placement, or null.
 * @param campaign Id of the campaign, or null.
 * @param values Values by the key of their field.
 */
export function composeAddress(
  page: string,
  placement: string | null,
  campaign: string | null,
  values: Record<string, string>,
): string {
  const params = new URLSearchParams({ page });
  if (placement) params.set('placement', placement);
  if (campaign) params.set('campaign', campaign);
  for (const [key, value] of Object.entries(values)) params.append('value', `${key}=${value}`);
  params.set('link', firstLink);
  return `/compose?${params.toString()}`;
}

/** Stands for the first link in an address, whatever its cell is called. */
export const firstLink = 'first';
