import { Columns3, Download } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useCampaigns, usePlacements, useTopics } from '../../api/known';
import { columns } from './columns';
import { Select } from '../../parts/Select';

interface LedgerBarProps {
  value: (key: string) => string;
  onChange: (key: string, value: string) => void;
  shown: string[];
  onShow: (keys: string[]) => void;
  /** The search as a query, for files. */
  query: string;
}

const states = [
  ['', 'Active links'],
  ['live', 'Work'],
  ['paused', 'Paused'],
  ['ended', 'Ended'],
  ['waiting', 'Waiting for approval'],
  ['unshortened', 'Without short link'],
  ['retired', 'Archived'],
] as const;

const groupings = [
  ['campaign', 'By campaign'],
  ['placement', 'By placement'],
  ['channel', 'By channel'],
  ['topic', 'By topic'],
  ['state', 'By state'],
] as const;

/** What narrows the Ledger down, which columns it has, and its files. */
export function LedgerBar({ value, onChange, shown, onShow, query }: LedgerBarProps) {
  const campaigns = useCampaigns();
  const placements = usePlacements();
  const topics = useTopics();
  const channels = [...new Set((placements.data ?? []).map((p) => p.channel).filter((c): c is string => !!c))].sort();
  return (
    <div className="flex h-11 shrink-0 items-center gap-2 border-b border-line px-5">
      <Choice
        label="Campaign"
        all="All campaigns"
        value={value('campaign')}
        onChange={(v) => onChange('campaign', v)}
        options={(campaigns.data ?? []).map((c) => [c.id, c.name])}
      />
      <Choice
        label="Placement"
        all="All placements"
        value={value('placement')}
        onChange={(v) => onChange('placement', v)}
        options={(placements.data ?? []).map((p) => [p.id, p.name])}
      />
      <Choice
        label="Channel"
        all="All channels"
        value={value('channel')}
        onChange={(v) => onChange('channel', v)}
        options={channels.map((c) => [c, c])}
      />
      <Select
        className="w-36"
        label="State"
        value={value('state')}
        onChange={(value) => onChange('state', value)}
        options={states}
      />
      {(topics.data?.length ?? 0) > 0 && (
        <Choice
          label="Topic"
          all="All topics"
          value={value('topic')}
          onChange={(v) => onChange('topic', v)}
          options={topics.data!.map((t) => [t.name, t.name])}
        />
      )}
      <span className="flex-1" />
      <Select
        className="w-36"
        label="Group by"
        value={value('by')}
        onChange={(value) => onChange('by', value)}
        options={[['', 'No grouping'], ...groupings]}
      />
      <Popover.Root>
        <Popover.Trigger className="button">
          <Columns3 size={14} strokeWidth={1.5} /> Columns
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content align="end" sideOffset={6} className="floating z-40 grid w-72 grid-cols-2 gap-1.5 p-3">
            {columns.map((column) => (
              <label key={column.key} className="flex items-center gap-2" title={column.more}>
                <input
                  type="checkbox"
                  checked={shown.includes(column.key)}
                  onChange={(e) =>
                    onShow(e.target.checked ? [...shown, column.key] : shown.filter((key) => key !== column.key))
                  }
                />
                {column.title}
              </label>
            ))}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <a className="button" href={`/api/v1/links.csv${query}`} download>
        <Download size={14} strokeWidth={1.5} /> CSV
      </a>
      <a className="button" href={`/api/v1/links.xlsx${query}`} download>
        XLSX
      </a>
    </div>
  );
}

function Choice({
  label,
  all,
  value,
  onChange,
  options,
}: {
  label: string;
  all: string;
  value: string;
  onChange: (value: string) => void;
  options: (readonly [string, string])[];
}) {
  return <Select className="w-36" label={label} value={value} onChange={onChange} options={[['', all], ...options]} />;
}
