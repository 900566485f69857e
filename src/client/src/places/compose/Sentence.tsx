import type { Schema } from '../../api/client';
import { Picker } from '../../parts/Picker';
import { ChipInput } from './ChipInput';
import type { Composition } from './composition';

interface SentenceProps {
  composition: Composition;
  onChange: (next: Composition) => void;
  placements: Schema['PlacementAnswer'][];
  campaigns: Schema['CampaignAnswer'][];
  onPasted: (text: string) => boolean;
}

/** The top line of Compose, which reads as a sentence. */
export function Sentence({ composition, onChange, placements, campaigns, onPasted }: SentenceProps) {
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-2 border-b border-line px-5 py-3">
      <span>Send people from</span>
      <Picker
        label="Placements"
        empty="choose placements"
        several
        options={placements.map((p) => ({ value: p.id, label: p.name, detail: p.channel }))}
        chosen={composition.placements}
        onChange={(chosen) => onChange({ ...composition, placements: chosen })}
      />
      <span>to</span>
      <ChipInput
        label="Pages"
        placeholder={composition.pages.length ? 'another page …' : 'paste a page’s address'}
        mono
        values={composition.pages}
        onChange={(pages) => onChange({ ...composition, pages })}
        onPasted={onPasted}
      />
      <span>for</span>
      <Picker
        label="Campaigns"
        empty="choose a campaign"
        options={campaigns.map((c) => ({ value: c.id, label: c.name, detail: c.value }))}
        chosen={composition.campaign ? [composition.campaign] : []}
        onChange={([campaign]) => onChange({ ...composition, campaign: campaign ?? '' })}
      />
      <span>saying</span>
      <ChipInput
        label="Variants"
        placeholder={composition.variants.length ? 'another …' : 'what the placement says'}
        values={composition.variants}
        onChange={(variants) => onChange({ ...composition, variants })}
      />
    </div>
  );
}
