import { useMutation, useQuery } from '@tanstack/react-query';
import { Archive, ArrowLeft, PenLine, RotateCcw, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { type CampaignAnswer, type Schema } from '../../api/client';
import { count } from '../../parts/format';
import { Inspector } from '../../parts/Inspector';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { BudgetFact } from './BudgetFact';
import { CampaignForm } from './CampaignForm';
import { CampaignResults } from './CampaignResults';
import { NextSeasonForm } from './NextSeasonForm';
import { PlannedSheet } from './PlannedSheet';
import { stateNames } from './states';
import { datesOf } from './TimeLine';
import { campaignQuery, campaignArchive, campaignDelete } from './queries';

interface CampaignViewProps {
  id: string;
  onLeave: () => void;
  onOpen: (id: string) => void;
}

/** One campaign: what is said of it, its planned and made links, and what came of it so far. */
export function CampaignView({ id, onLeave, onOpen }: CampaignViewProps) {
  const person = usePerson();
  const [side, setSide] = useState<'change' | 'season' | null>(null);
  const mayWrite = person.role !== 'viewer';
  const detail = useQuery(campaignQuery(id));
  const archive = useMutation(campaignArchive(id));
  const remove = useMutation({ ...campaignDelete(id), onSuccess: onLeave });

  if (detail.isError)
    return (
      <>
        <Head title="Plan" />
        <p className="p-8">
          {detail.error.message}{' '}
          <button type="button" className="button-plain" onClick={onLeave}>
            All campaigns
          </button>
        </p>
      </>
    );
  if (!detail.data) return <Head title="Plan" />;
  const { campaign, planned, overlaps, results, total, budget } = detail.data;

  return (
    <>
      <Head
        title={campaign.name}
        state={
          <>
            {campaign.archived ? 'archived' : stateNames[campaign.state]} · {datesOf(campaign)} ·{' '}
            {count(campaign.links)} {campaign.links === 1 ? 'link' : 'links'}
            {campaign.missing > 0 && ` · ${count(campaign.missing)} still to create`}
          </>
        }
      >
        <button type="button" className="button" onClick={onLeave}>
          <ArrowLeft size={14} strokeWidth={1.5} /> All campaigns
        </button>
        {mayWrite && (
          <>
            <button type="button" className="button" onClick={() => setSide('season')}>
              <RotateCcw size={14} strokeWidth={1.5} /> Next season
            </button>
            <button type="button" className="button" onClick={() => archive.mutate(!campaign.archived)}>
              <Archive size={14} strokeWidth={1.5} /> {campaign.archived ? 'Restore' : 'Archive'}
            </button>
            {campaign.links === 0 && (
              <button type="button" className="button" disabled={remove.isPending} onClick={() => remove.mutate()}>
                <Trash2 size={14} strokeWidth={1.5} /> Delete
              </button>
            )}
            <button type="button" className="button-main" onClick={() => setSide('change')}>
              <PenLine size={14} strokeWidth={1.5} /> Change
            </button>
          </>
        )}
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="min-h-0 min-w-0 flex-1 overflow-auto">
          <Facts campaign={campaign} overlaps={overlaps} budget={budget} />
          {remove.isError && <p className="px-5 py-2 text-error">{remove.error.message}</p>}
          <PlannedSheet campaign={campaign} rows={planned} mayWrite={mayWrite} />
          <CampaignResults campaign={campaign} results={results} total={total} />
        </div>
        {side === 'change' && (
          <Inspector title={`Edit ${campaign.name}`} onClose={() => setSide(null)}>
            <CampaignForm campaign={campaign} onSaved={() => setSide(null)} />
          </Inspector>
        )}
        {side === 'season' && (
          <NextSeasonForm
            campaign={campaign}
            onClose={() => setSide(null)}
            onMade={(made) => {
              setSide(null);
              onOpen(made.id);
            }}
          />
        )}
      </div>
    </>
  );
}

function Facts({
  campaign,
  overlaps,
  budget,
}: {
  campaign: CampaignAnswer;
  overlaps: string[];
  budget: Schema['BudgetAnswer'] | null;
}) {
  const facts: [string, string | null][] = [
    ['Tags', campaign.value],
    ['Owner', campaign.owner],
    ...Object.entries(campaign.attributes).sort(([a], [b]) => a.localeCompare(b)),
    ['Runs at the same time as', overlaps.length ? overlaps.join(', ') : null],
  ];
  return (
    <div className="border-b border-line px-5 py-3">
      {campaign.goal && <p className="mb-2">{campaign.goal}</p>}
      <dl className="flex flex-wrap gap-x-8 gap-y-2">
        {facts
          .filter(([, value]) => value)
          .map(([name, value]) => (
            <div key={name}>
              <dt className="caption">{name}</dt>
              <dd className={name === 'Tags' ? 'font-mono text-xs' : ''}>{value}</dd>
            </div>
          ))}
        {budget && <BudgetFact budget={budget} endsOn={campaign.endsOn} />}
      </dl>
    </div>
  );
}
