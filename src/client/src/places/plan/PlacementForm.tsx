import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Refused, type PlacementAnswer, type Schema } from '../../api/client';
import { useFields, useShortDomains } from '../../api/known';
import { useDebounced } from '../../parts/useDebounced';
import { dayNames } from './days';
import { useTaggedChannels } from './useTaggedChannels';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';
import { placementDefaultsQuery, placementSave } from './queries';
import { ToolWrites } from './ToolWrites';
import { DefaultValues } from './DefaultValues';

type Written = Schema['PlacementRequest'];

interface PlacementFormProps {
  /** The placement to change; left out for a new one. */
  placement?: PlacementAnswer;
  /** What a new one is called to begin with. */
  name?: string;
  /** What else is known of a new one. */
  begun?: Pick<Written, 'channel' | 'publisher' | 'defaults'>;
  onSaved: (saved: PlacementAnswer) => void;
}

const blank: Written = {
  name: '',
  channel: '',
  publisher: null,
  defaults: {},
  asks: [],
  toolWrites: {},
  tags: [],
  useDays: [],
  useForm: null,
  style: null,
  shareForm: null,
  costPerClick: null,
  fixedCost: null,
  shortDomain: null,
};

const writtenOf = (p: PlacementAnswer): Written => ({
  name: p.name,
  channel: p.channel,
  publisher: p.publisher,
  defaults: p.defaults,
  asks: p.asks,
  toolWrites: p.toolWrites,
  tags: p.tags,
  useDays: p.useDays,
  useForm: p.useForm,
  style: p.style,
  shareForm: p.shareForm,
  costPerClick: p.costPerClick,
  fixedCost: p.fixedCost,
  shortDomain: p.shortDomain,
  revision: p.revision,
});

/** Everything the links of one placement need, written down once. */
export function PlacementForm({ placement, name, begun, onSaved }: PlacementFormProps) {
  const [written, setWritten] = useState<Written>(
    placement ? writtenOf(placement) : { ...blank, ...begun, name: name ?? '' },
  );
  const [tags, setTags] = useState((placement?.tags ?? []).join(', '));
  const [theirs, setTheirs] = useState<PlacementAnswer | null>(null);
  const fields = useFields();
  const domains = useShortDomains();
  const channels = useTaggedChannels();
  const save = useMutation({
    ...placementSave(placement?.id),
    onSuccess: (saved) => onSaved(saved),
    onError: (error) => {
      if (error instanceof Refused && error.rule === 'changed-meanwhile') setTheirs(error.theirs as PlacementAnswer);
    },
  });
  const set = (change: Partial<Written>) => setWritten({ ...written, ...change });
  const asked = useDebounced(
    JSON.stringify({ name: written.name, channel: written.channel, publisher: written.publisher ?? undefined }),
    150,
  );
  const proposed = useQuery({
    ...placementDefaultsQuery(asked),
    // A channel is what most follows from; before it is chosen, a name alone says little.
    enabled: !placement && !!written.channel,
    placeholderData: keepPreviousData,
  });
  // What was typed goes before what follows, an emptied field too.
  const defaults = { ...(placement ? {} : proposed.data), ...written.defaults };
  const asks = written.asks ?? [];
  const days = written.useDays ?? [];

  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate({
          ...written,
          defaults,
          tags: tags
            .split(',')
            .map((t) => t.trim())
            .filter(Boolean),
        });
      }}
    >
      {theirs && (
        <div role="alert" className="rounded border border-warning p-3">
          <p>{save.error?.message}</p>
          <button
            type="button"
            className="button mt-2"
            onClick={() => {
              setWritten(writtenOf(theirs));
              setTags(theirs.tags.join(', '));
              setTheirs(null);
              save.reset();
            }}
          >
            Show theirs
          </button>
        </div>
      )}
      <FormField label="Name">
        <input
          className="input"
          autoFocus={!placement}
          value={written.name ?? ''}
          onChange={(e) => set({ name: e.target.value })}
        />
      </FormField>
      <div className="grid grid-cols-2 gap-3">
        <FormField label="Channel">
          <Select
            value={written.channel ?? ''}
            onChange={(value) => set({ channel: value })}
            options={[
              ['', 'choose …'],
              ...(written.channel && !channels.data?.includes(written.channel)
                ? [[written.channel, written.channel] as const]
                : []),
              ...(channels.data?.map((channel) => [channel, channel] as const) ?? []),
            ]}
          />
        </FormField>
        <FormField label="Publisher or audience">
          <input
            className="input"
            value={written.publisher ?? ''}
            onChange={(e) => set({ publisher: e.target.value || null })}
          />
        </FormField>
      </div>
      <DefaultValues
        fields={fields.data ?? []}
        values={defaults}
        asks={asks}
        onValue={(key, value) => set({ defaults: { ...written.defaults, [key]: value } })}
        onAsks={(next) => set({ asks: next })}
      />
      <fieldset>
        <legend className="mb-1 text-xs font-medium text-quiet">Allowed days</legend>
        <div className="flex gap-1">
          {dayNames.map((day, i) => (
            <button
              key={day}
              type="button"
              aria-pressed={days.includes(i + 1)}
              className="h-7 w-9 rounded border border-line-strong text-xs hover:border-accent aria-pressed:border-accent aria-pressed:bg-accent-wash aria-pressed:font-medium"
              onClick={() =>
                set({ useDays: days.includes(i + 1) ? days.filter((d) => d !== i + 1) : [...days, i + 1] })
              }
            >
              {day}
            </button>
          ))}
          <span className="caption self-center pl-1">{days.length === 0 && 'every day'}</span>
        </div>
      </fieldset>
      <div className="grid grid-cols-2 gap-3">
        <FormField label="Format">
          <input
            className="input"
            placeholder="post, comment …"
            value={written.useForm ?? ''}
            onChange={(e) => set({ useForm: e.target.value || null })}
          />
        </FormField>
        <FormField label="Tags go">
          <Select
            value={written.style ?? ''}
            onChange={(value) => set({ style: (value || null) as Written['style'] })}
            options={[
              ['', 'automatic (as the site needs)'],
              ['query', 'in the query (after ?)'],
              ['fragment', 'in the fragment (after #)'],
              ['sealed', 'sealed'],
            ]}
          />
        </FormField>
        <FormField label="Cost per click">
          <input
            type="number"
            min="0"
            step="0.0001"
            className="input"
            value={written.costPerClick ?? ''}
            onChange={(e) => set({ costPerClick: e.target.value === '' ? null : Number(e.target.value) })}
          />
        </FormField>
        <FormField label="Fixed cost per campaign">
          <input
            type="number"
            min="0"
            step="0.01"
            className="input"
            value={written.fixedCost ?? ''}
            onChange={(e) => set({ fixedCost: e.target.value === '' ? null : Number(e.target.value) })}
          />
        </FormField>
      </div>
      {((domains.data?.length ?? 0) > 1 || written.shortDomain) && (
        <FormField label="Short domain">
          <Select
            value={written.shortDomain ?? ''}
            onChange={(value) => set({ shortDomain: value || null })}
            options={[
              ['', `workspace default: ${domains.data?.find((d) => d.first)?.host}`],
              ...(domains.data?.map((d) => [d.id, d.host] as const) ?? []),
            ]}
          />
        </FormField>
      )}
      <FormField label="Share text template">
        <textarea
          className="input h-14 py-1"
          placeholder={'Dear group,\n@{text}'}
          value={written.shareForm ?? ''}
          onChange={(e) => set({ shareForm: e.target.value || null })}
        />
      </FormField>
      <FormField label="Search words, separated by commas">
        <input className="input" value={tags} onChange={(e) => setTags(e.target.value)} />
      </FormField>
      <ToolWrites
        fields={fields.data ?? []}
        values={written.toolWrites ?? {}}
        onChange={(toolWrites) => set({ toolWrites })}
      />
      {save.isError && !theirs && (
        <p role="alert" className="text-error">
          {save.error.message}
        </p>
      )}
      <button type="submit" className="button-main self-start" disabled={save.isPending}>
        {placement ? 'Save placement' : 'Add placement'}
      </button>
    </form>
  );
}
