import { X } from 'lucide-react';
import { useState } from 'react';
import type { PlacementAnswer, Schema } from '../../api/client';
import { Picker } from '../../parts/Picker';
import { AxisChoice } from './AxisEditor';
import { ChipInput } from './ChipInput';
import type { Composition } from './composition';
import { FormDialog } from '../../parts/FormDialog';
import { NewCampaign } from '../plan/NewCampaign';
import { PlacementForm } from '../plan/PlacementForm';
import { PagePicker } from './PagePicker';

interface SentenceProps {
  composition: Composition;
  onChange: (next: Composition) => void;
  placements: PlacementAnswer[];
  sets: Schema['PlacementSetAnswer'][];
  campaigns: Schema['CampaignAnswer'][];
  mayWrite: boolean;
  /** May take a pasted text over; true when it did. */
  onPasted: (text: string) => boolean;
}

/** The top line of Compose, which reads as a sentence. */
export function Sentence(props: SentenceProps) {
  const { composition, onChange, placements, sets, campaigns, mayWrite, onPasted } = props;
  const [naming, setNaming] = useState<{ what: 'placement' | 'campaign'; name: string } | null>(null);
  const addPages = (pages: string[]) => {
    const fresh = pages.map((p) => p.trim()).filter((p) => p !== '' && !composition.pages.includes(p));
    if (fresh.length) onChange({ ...composition, pages: [...composition.pages, ...fresh] });
  };
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-2 border-b border-line px-5 py-3">
      <span>Send people from</span>
      <Picker
        label="Placements"
        empty="choose placements"
        several
        options={placements.map((p) => ({
          value: p.id,
          label: p.name,
          detail: p.channel,
          words: [p.publisher ?? '', ...p.tags].join(' '),
        }))}
        groups={sets.map((s) => ({
          label: s.name,
          values: s.placements.filter((id) => placements.some((p) => p.id === id)),
        }))}
        chosen={composition.placements}
        onChange={(chosen) => onChange({ ...composition, placements: chosen })}
        onNew={mayWrite ? (name) => setNaming({ what: 'placement', name }) : undefined}
      />
      <span>to</span>
      <span className="inline-flex min-h-8 flex-wrap items-center gap-1 rounded border border-line-strong bg-sheet px-1 font-mono text-xs focus-within:border-accent">
        {composition.pages.map((page) => (
          <span key={page} className="inline-flex h-6 max-w-80 items-center gap-1 rounded bg-page pr-0.5 pl-2">
            <span className="truncate" title={page}>
              {page.replace(/^https?:\/\//, '')}
            </span>
            <button
              type="button"
              aria-label={`Remove ${page}`}
              className="rounded p-0.5 text-quiet hover:text-ink"
              onClick={() => onChange({ ...composition, pages: composition.pages.filter((p) => p !== page) })}
            >
              <X size={12} strokeWidth={1.5} />
            </button>
          </span>
        ))}
        <PagePicker
          label="Pages"
          clears
          className="h-7 w-52 bg-transparent px-1 outline-none"
          placeholder={composition.pages.length ? 'add a page …' : 'a page’s title or address'}
          value=""
          onPick={(page) => addPages([page])}
          onPaste={(event) => {
            const pasted = event.clipboardData.getData('text');
            if (onPasted(pasted)) event.preventDefault();
            else if (/[\r\n]/.test(pasted.trim())) {
              event.preventDefault();
              addPages(pasted.split(/\r?\n/));
            }
          }}
          onEmptyBackspace={() => onChange({ ...composition, pages: composition.pages.slice(0, -1) })}
        />
      </span>
      <span>for</span>
      <Picker
        label="Campaigns"
        empty="choose a campaign"
        options={campaigns.map((c) => ({ value: c.id, label: c.name, detail: c.value }))}
        chosen={composition.campaign ? [composition.campaign] : []}
        onChange={([campaign]) => onChange({ ...composition, campaign: campaign ?? '' })}
        onNew={mayWrite ? (name) => setNaming({ what: 'campaign', name }) : undefined}
      />
      <span>saying</span>
      <ChipInput
        label="Variants"
        placeholder={composition.variants.length ? 'add …' : 'the placement’s default'}
        values={composition.variants}
        onChange={(variants) => onChange({ ...composition, variants })}
      />
      <AxisChoice composition={composition} placements={placements} onChange={onChange} />
      {naming?.what === 'placement' && (
        <FormDialog title="New placement" onClose={() => setNaming(null)}>
          <PlacementForm
            name={naming.name}
            onSaved={(made) => {
              setNaming(null);
              onChange({ ...composition, placements: [...composition.placements, made.id] });
            }}
          />
        </FormDialog>
      )}
      {naming?.what === 'campaign' && (
        <NewCampaign
          name={naming.name}
          onClose={() => setNaming(null)}
          onMade={(made) => {
            setNaming(null);
            onChange({ ...composition, campaign: made.id });
          }}
        />
      )}
    </div>
  );
}
