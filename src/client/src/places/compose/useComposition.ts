import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { cellsOf, nothing, type Composition } from './composition';

const draftKey = 'beacon-compose-draft';

type Draft = Omit<Composition, 'pages' | 'placements' | 'campaign' | 'variants'>;

const draftOf = ({ pages: _p, placements: _l, campaign: _c, variants: _v, ...draft }: Composition): Draft => draft;

function savedDraft(): Draft {
  try {
    return { ...draftOf(nothing), ...(JSON.parse(sessionStorage.getItem(draftKey) ?? '{}') as Partial<Draft>) };
  } catch {
    return draftOf(nothing);
  }
}

/**
 * The composition being worked on. The sentence is the address, so that it can be linked and Back works; what was typed
 * into single links survives a reload and a lost connection.
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
    const kept = draftOf(next);
    setDraft(kept);
    sessionStorage.setItem(draftKey, JSON.stringify(kept));
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
  const [cell] = cellsOf({ ...nothing, pages: [page], placements, campaign: campaign ?? '' });
  const overrides = Object.keys(values).length ? { [cell!.key]: values } : {};
  sessionStorage.setItem(draftKey, JSON.stringify({ ...draftOf(nothing), overrides }));
  const params = new URLSearchParams({ page });
  placements.forEach((p) => params.append('placement', p));
  if (campaign) params.set('campaign', campaign);
  params.set('link', cell!.key);
  return `/compose?${params.toString()}`;
}
