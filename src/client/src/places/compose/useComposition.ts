import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { firstLink } from '../../parts/composeAddress';
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

/** What an address brings along for its first link; null for one that brings nothing, so that what was typed before stays. */
export function typedIn(search: URLSearchParams): Draft | null {
  if (search.get('link') !== firstLink) return null;
  const values = search
    .getAll('value')
    .map((pair) => [pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1)]);
  const [cell] = cellsOf({ ...nothing, ...sentenceOf(search) });
  return {
    ...draftOf(nothing),
    overrides: cell && values.length > 0 ? { [cell.key]: Object.fromEntries(values) as Record<string, string> } : {},
  };
}

const sentenceOf = (search: URLSearchParams) => ({
  pages: search.getAll('page'),
  placements: search.getAll('placement'),
  campaign: search.get('campaign') ?? '',
  variants: search.getAll('say'),
});

/**
 * The composition being worked on. The sentence is the address, so that it can be linked and Back works; what was typed
 * into single links survives a reload and a lost connection.
 */
export function useComposition(): [Composition, (next: Composition) => void] {
  const [search, setSearch] = useSearchParams();
  const [draft, setDraft] = useState(() => typedIn(search) ?? savedDraft());
  const composition: Composition = { ...sentenceOf(search), ...draft };

  function change(next: Composition) {
    const kept = draftOf(next);
    setDraft(kept);
    sessionStorage.setItem(draftKey, JSON.stringify(kept));
    const params = new URLSearchParams(search);
    for (const key of ['page', 'placement', 'campaign', 'say', 'value']) params.delete(key);
    next.pages.forEach((p) => params.append('page', p));
    next.placements.forEach((p) => params.append('placement', p));
    next.variants.forEach((v) => params.append('say', v));
    if (next.campaign) params.set('campaign', next.campaign);
    if (params.toString() !== search.toString()) setSearch(params, { replace: true });
  }

  return [composition, change];
}
