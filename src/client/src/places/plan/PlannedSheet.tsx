import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Download, Plus } from 'lucide-react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { Refused, type CampaignAnswer, type Schema } from '../../api/client';
import { usePlacements } from '../../api/known';
import { count } from '../../parts/format';
import { FileInput } from '../../parts/FileInput';
import { plannedBegun } from '../../parts/planAddress';
import { PlannedRow } from './PlannedRow';
import { SheetRead } from './SheetRead';
import { campaignQuery, planSheetRead, plannedMake, writePlan, type PlanChange } from './queries';

type Row = Schema['PlannedAnswer'];
type Written = Schema['PlannedRow'];

interface PlannedSheetProps {
  campaign: CampaignAnswer;
  rows: Row[];
  mayWrite: boolean;
}

const writtenOf = (row: Row): Written => ({
  id: row.id,
  page: row.page,
  placementId: row.placementId,
  content: row.content,
  owner: row.owner,
  dueOn: row.dueOn,
  note: row.note,
});

/** True when a row says the same in both versions of the plan. */
function isSame(seen: Row[], now: Row[], id: string): boolean {
  const [a, b] = [seen, now].map((rows) => rows.find((r) => r.id === id));
  return a !== undefined && b !== undefined && JSON.stringify(writtenOf(a)) === JSON.stringify(writtenOf(b));
}

/** Links planned for a campaign: written down row by row, then made in one stroke. */
export function PlannedSheet({ campaign, rows, mayWrite }: PlannedSheetProps) {
  const queries = useQueryClient();
  const [search] = useSearchParams();
  const [fresh, setFresh] = useState<Written | null>(() => plannedBegun(search));
  const [read, setRead] = useState<Schema['PlanSheetRead'] | null>(null);
  const [message, setMessage] = useState('');
  const placements = usePlacements();

  function take(detail: Schema['CampaignDetail']) {
    queries.setQueryData(campaignQuery(campaign.id).queryKey, detail);
  }
  const change = useMutation({
    mutationFn: async (what: PlanChange) => {
      try {
        return await writePlan(campaign.id, what, campaign.revision);
      } catch (error) {
        if (!(error instanceof Refused) || error.rule !== 'changed-meanwhile') throw error;
        // Somebody changed the campaign; where they left these very rows alone, this change goes on top of theirs.
        const now = await queries.fetchQuery({ ...campaignQuery(campaign.id), staleTime: 0 });
        const touched = [...(what.rows ?? []).map((r) => r.id), ...(what.removed ?? [])].filter((id) => id !== null);
        if (touched.some((id) => !isSame(rows, now.planned, id!))) throw error;
        return writePlan(campaign.id, what, now.campaign.revision);
      }
    },
    meta: { outdates: [['campaigns']] },
    onSuccess: take,
    onError: async (error) => {
      setMessage(error.message);
      await queries.invalidateQueries({ queryKey: campaignQuery(campaign.id).queryKey });
    },
  });
  const make = useMutation({
    ...plannedMake(campaign.id),
    onSuccess: (answer) => {
      take(answer.campaign);
      const made = `${answer.made} ${answer.made === 1 ? 'link' : 'links'} made`;
      setMessage(answer.used === 0 ? `${made}.` : `${made}, ${answer.used} existing used.`);
    },
    onError: (error) => setMessage(error.message),
  });
  const readSheet = useMutation({
    ...planSheetRead(campaign.id),
    onSuccess: setRead,
    onError: (error) => setMessage(error.message),
  });

  const ready = rows.filter((r) => r.state === 'ready').length;
  const existing = rows.filter((r) => r.exists).length;
  const open = rows.filter((r) => r.state === 'incomplete' || r.state === 'stopped').length;

  return (
    <section aria-label="Planned links" className="bg-sheet">
      <div className="flex items-center gap-3 px-5 pt-4 pb-2">
        <h2 className="font-semibold">Planned links</h2>
        <p role="status" className="min-w-0 flex-1 truncate text-quiet">
          {rows.length > 0 && `${ready} ready · ${open} incomplete · ${rows.length - ready - open} made`}
          {message && <span className="ml-3">{message}</span>}
        </p>
        <a className="button-plain" href={`/api/v1/campaigns/${campaign.id}/planned.xlsx`} download>
          <Download size={14} strokeWidth={1.5} /> XLSX
        </a>
        <a className="button-plain" href={`/api/v1/campaigns/${campaign.id}/planned.csv`} download>
          <Download size={14} strokeWidth={1.5} /> CSV
        </a>
        {mayWrite && (
          <>
            <FileInput
              label="Sheet of planned links"
              accept=".xlsx,.csv,.tsv,.txt"
              says="Upload a sheet"
              pending={readSheet.isPending}
              onFile={readSheet.mutate}
            />
            <button
              type="button"
              className="button"
              onClick={() => setFresh({ id: null, page: rows.at(-1)?.page ?? '', placementId: null })}
            >
              <Plus size={14} strokeWidth={1.5} /> Plan a link
            </button>
            <button
              type="button"
              className="button-main"
              disabled={ready === 0 || make.isPending}
              onClick={() => make.mutate(false)}
            >
              {existing === 0
                ? `Create ${count(ready)}`
                : existing === ready
                  ? `Use ${count(existing)} existing`
                  : `Create ${count(ready - existing)}, use ${count(existing)} existing`}
            </button>
            {existing > 0 && (
              <button type="button" className="button" disabled={make.isPending} onClick={() => make.mutate(true)}>
                Create all {count(ready)}
              </button>
            )}
          </>
        )}
      </div>
      {read && (
        <SheetRead
          read={read}
          onLeave={() => setRead(null)}
          onTake={() => change.mutate({ rows: read.rows.map((r) => r.row) }, { onSuccess: () => setRead(null) })}
        />
      )}
      {rows.length === 0 && !fresh && (
        <p className="px-5 pb-5 text-quiet">
          No planned links yet. Plan one, or upload a sheet with the columns Page, Placement, Content, Owner, Due and
          Note.
        </p>
      )}
      {(rows.length > 0 || fresh) && (
        <table className="w-full table-fixed">
          <colgroup>
            <col className="w-10" />
            <col className="w-[20%]" />
            <col className="w-[18%]" />
            <col className="w-[11%]" />
            <col className="w-[9%]" />
            <col className="w-[7.5rem]" />
            <col />
            <col className="w-10" />
          </colgroup>
          <thead>
            <tr className="h-8 border-b border-line text-left text-xs text-quiet">
              <th className="pl-5" aria-label="State" />
              {['Page', 'Placement', 'Content', 'Owner', 'Due', 'Result'].map((head) => (
                <th key={head} className="px-1.5 font-medium">
                  {head}
                </th>
              ))}
              <th aria-label="Remove" />
            </tr>
          </thead>
          <tbody>
            {[
              ...rows.map((row) => ({ row, written: writtenOf(row) })),
              ...(fresh ? [{ row: null, written: fresh }] : []),
            ].map(({ row, written }) => (
              <PlannedRow
                key={row?.id ?? 'fresh'}
                row={row}
                written={written}
                placements={placements.data ?? []}
                mayWrite={mayWrite}
                onChange={(next) => {
                  if (row) change.mutate({ rows: [next] });
                  else if (next.page || next.placementId)
                    change.mutate({ rows: [next] }, { onSuccess: () => setFresh(null) });
                  else setFresh(next);
                }}
                onRemove={() => (row ? change.mutate({ removed: [row.id] }) : setFresh(null))}
              />
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
