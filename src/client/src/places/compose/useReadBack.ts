import { useState } from 'react';
import { useCampaigns, useFields, usePlacements } from '../../api/known';
import type { Composition } from './composition';
import { linksIn } from './pasted';
import { inspectLinks } from './queries';
import type { PastedLink } from './ReadBack';

interface Given {
  composition: Composition;
  change: (next: Composition) => void;
  /** Nothing is composed yet. */
  isEmpty: boolean;
  /** Links that are read at once. */
  mostLinks: number;
  onSay: (message: string) => void;
}

/** Links that are pasted: read back, looked at, and taken into what is composed. */
export function useReadBack({ composition, change, isEmpty, mostLinks, onSay }: Given) {
  const [pasted, setPasted] = useState<PastedLink[]>([]);
  const placements = usePlacements();
  const campaigns = useCampaigns();
  const fields = useFields();

  /** Pasted links are read back; a single right one goes into the sentence at once, others are shown mended first. */
  function readBack(text: string): boolean {
    const urls = linksIn(text, fields.data?.map((f) => f.key) ?? []);
    if (urls.length === 0) return false;
    void (async () => {
      try {
        const read = (await inspectLinks(urls.slice(0, mostLinks))).map((link, i) => ({ given: urls[i]!, read: link }));
        if (read.length === 1 && read[0]!.read.notices.every((n) => n.severity === 'info')) take(read);
        else setPasted(read);
      } catch (problem) {
        onSay((problem as Error).message);
      }
    })();
    return true;
  }

  function take(links: PastedLink[]) {
    const taken = links.map(({ read }) => ({
      page: read.destination!,
      values: Object.fromEntries(read.fields.filter((f) => f.value).map((f) => [f.key, f.value])),
      faults: read.notices.filter((n) => n.severity !== 'info').length,
    }));
    const [only] = taken;
    if (taken.length === 1 && isEmpty) {
      const read = links[0]!.read;
      const placement = placements.data?.find((p) => p.name === read.placement)?.id;
      const campaign = campaigns.data?.find((c) => c.name === read.campaign)?.id;
      change({
        ...composition,
        pages: [...new Set([...composition.pages, only!.page])],
        placements: placement && composition.placements.length === 0 ? [placement] : composition.placements,
        campaign: composition.campaign || (campaign ?? ''),
        common: { ...composition.common, ...read.typed },
      });
      onSay(
        `Read back: ${Object.keys(only!.values).length} fields${only!.faults ? `, ${only!.faults} ${only!.faults === 1 ? 'fault' : 'faults'} repaired` : ''}.`,
      );
    } else {
      const stamp = Date.now().toString(36);
      const fresh = taken.map(({ page, values }, i) => ({ id: `read-${stamp}-${i}`, page, values }));
      change({ ...composition, readLinks: [...composition.readLinks, ...fresh] });
      onSay(`${taken.length} ${taken.length === 1 ? 'link' : 'links'} read back and repaired.`);
    }
    setPasted(pasted.filter((p) => !links.includes(p)));
  }
  return { pasted, setPasted, readBack, take };
}
