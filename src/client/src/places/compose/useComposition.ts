import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { cellsOf, type Composition } from './composition';

const draftKey = 'beacon-compose-draft';

type Draft = Pick<Composition, 'common' | 'overrides' | 'removed'>;
const emptyDraft: Draft = { common: {}, overrides: {}, removed: [] };

function savedDraft(): Draft {
  try {
    return { ...emptyDraft, ...(JSON.parse(sessionStorage.getItem(draftKey) ?? '{}') as Partial<Draft>) };
  } catch {
    return emptyDraft;
  }
}

/**
 * The composition being worked on. The sentence is the address, so that it can be linked and Back works; what was typed
 * into single links survives a reload.
 */
export function useComposition(): [Composition, (next: Composition) => void] {
  const [search, setSearch] = useSearchParams();
  const [draft, setDraft] = useState(savedDraft);
  const composition: Composition = {
    pages: search.getAll('page'),
    placements: search.getAll('placement'),
    campaign: search.get('campaign') ?? '',
    variants: search.getAll('say'),
    ...draft,
  };

  function change(next: Composition) {
    const { common, overrides, removed } = next;
    setDraft({ common, overrides, removed });
    sessionStorage.setItem(draftKey, JSON.stringify({ common, overrides, removed }));
    const params = new URLSearchParams(search);
    for (const key of ['page', 'placement', 'campaign', 'say']) params.delete(key);
    next.pages.forEach((p) => params.append('page', p));
    next.placements.forEach((p) => params.append('placement', p));
    next.variants.forEach((v) => params.append('say', v));
    if (next.campaign) params.set('campaign', next.campaign);
    if (params.toString() !== search.toString()) setSearch(params, { replace: true });
  }

  return [composition, change];
}

/**
 * Prepares Compose for one link, with values typed for it.
 * @returns The address to go to.
 */
export function beginWith(
  page: string,
  placement: string | null,
  campaign: string | null,
  values: Record<string, string>,
): string {
  const placements = placement ? [placement] : [];
  const [cell] = cellsOf({ ...emptyDraft, pages: [page], placements, campaign: campaign ?? '', variants: [] });
  const overrides = Object.keys(values).length ? { [cell!.key]: values } : {};
  sessionStorage.setItem(draftKey, JSON.stringify({ ...emptyDraft, overrides }));
  const params = new URLSearchParams({ page });
  placements.forEach((p) => params.append('placement', p));
  if (campaign) params.set('campaign', campaign);
  params.set('link', cell!.key);
  return `/compose?${params.toString()}`;
}
