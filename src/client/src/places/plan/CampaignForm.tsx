import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Refused, type CampaignAnswer, type Schema } from '../../api/client';
import { NoticeList } from '../../parts/NoticeList';
import { useDebounced } from '../../parts/useDebounced';
import { datesOf } from './TimeLine';
import { FormField } from '../../parts/FormField';
import { DateField } from '../../parts/DateField';
import { attributesQuery } from '../../api/queries';
import { campaignPreviewQuery, campaignSave } from './queries';

type Written = Schema['CampaignRequest'];

interface CampaignFormProps {
  /** The campaign to change; left out for a new one. */
  campaign?: CampaignAnswer;
  /** What a new one is called to begin with. */
  name?: string;
  /** What a new one says on its links to begin with. */
  value?: string;
  onSaved: (saved: CampaignAnswer) => void;
}

const blank: Written = {
  name: '',
  value: null,
  startsOn: null,
  endsOn: null,
  owner: null,
  budget: null,
  goal: null,
  attributes: {},
  advertises: [],
};

const writtenOf = (c: CampaignAnswer): Written => ({
  name: c.name,
  value: c.value,
  startsOn: c.startsOn,
  endsOn: c.endsOn,
  owner: c.owner,
  budget: c.budget,
  goal: c.goal,
  attributes: c.attributes,
  advertises: c.advertises,
  revision: c.revision,
});

/** Writes a campaign down, or changes it; shows what its links will say while one types. */
export function CampaignForm({ campaign, name, value, onSaved }: CampaignFormProps) {
  const [written, setWritten] = useState<Written>(
    campaign ? writtenOf(campaign) : { ...blank, name: name ?? '', value: value ?? null },
  );
  const [theirs, setTheirs] = useState<CampaignAnswer | null>(null);
  const attributes = useQuery(attributesQuery());
  const asked = useDebounced(JSON.stringify(written), 150);
  const preview = useQuery({
    ...campaignPreviewQuery(asked),
    placeholderData: keepPreviousData,
    enabled: (written.name ?? '').trim() !== '',
  });
  const save = useMutation({
    ...campaignSave(campaign?.id),
    onSuccess: (saved) => onSaved(saved),
    onError: (error) => {
      if (error instanceof Refused && error.rule === 'changed-meanwhile') setTheirs(error.theirs as CampaignAnswer);
    },
  });
  const set = (change: Partial<Written>) => setWritten({ ...written, ...change });

  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate(written);
      }}
    >
      {theirs && (
        <div role="alert" className="rounded border border-warning p-3">
          <p>{save.error?.message}</p>
          <ul className="mt-2 text-xs">
            {differences(written, theirs).map(([what, mine, other]) => (
              <li key={what}>
                <span className="text-quiet">{what}:</span> yours “{mine}”, theirs “{other}”
              </li>
            ))}
          </ul>
          <span className="mt-2 flex gap-2">
            <button
              type="button"
              className="button"
              onClick={() => {
                setWritten(writtenOf(theirs));
                setTheirs(null);
                save.reset();
              }}
            >
              Use theirs
            </button>
            <button
              type="button"
              className="button"
              onClick={() => {
                const mine = { ...written, revision: theirs.revision };
                setWritten(mine);
                setTheirs(null);
                save.mutate(mine);
              }}
            >
              Save mine anyway
            </button>
          </span>
        </div>
      )}
      <FormField label="Name">
        <input
          className="input"
          autoFocus={!campaign}
          value={written.name ?? ''}
          onChange={(e) => set({ name: e.target.value })}
        />
      </FormField>
      <div className="grid grid-cols-2 gap-3">
        <FormField label="First day">
          <DateField value={written.startsOn ?? ''} onChange={(day) => set({ startsOn: day || null })} />
        </FormField>
        <FormField label="Last day">
          <DateField value={written.endsOn ?? ''} onChange={(day) => set({ endsOn: day || null })} />
        </FormField>
      </div>
      <p className="caption -mt-2">Without a first day, the campaign is always on.</p>
      {preview.data?.composed ? (
        <p className="flex flex-col gap-1">
          <span className="caption">Tags of its links, for example</span>
          <span className="font-mono text-xs break-all">{preview.data.value}</span>
        </p>
      ) : (
        <FormField label="Tags">
          <input
            className="input font-mono text-xs"
            placeholder={preview.data?.value}
            value={written.value ?? ''}
            onChange={(e) => set({ value: e.target.value || null })}
          />
          {preview.data && written.value && preview.data.value !== written.value && (
            <span className="caption">
              written as <span className="font-mono">{preview.data.value}</span>
            </span>
          )}
        </FormField>
      )}
      {preview.data && preview.data.notices.length > 0 && <NoticeList notices={preview.data.notices} />}
      <div className="grid grid-cols-2 gap-3">
        <FormField label="Owner">
          <input
            className="input"
            value={written.owner ?? ''}
            onChange={(e) => set({ owner: e.target.value || null })}
          />
        </FormField>
        <FormField label="Budget">
          <input
            type="number"
            min="0"
            step="0.01"
            className="input"
            value={written.budget ?? ''}
            onChange={(e) => set({ budget: e.target.value === '' ? null : Number(e.target.value) })}
          />
        </FormField>
      </div>
      <FormField label="Goal">
        <textarea
          className="input h-16 py-1"
          value={written.goal ?? ''}
          onChange={(e) => set({ goal: e.target.value || null })}
        />
      </FormField>
      <FormField
        label="Advertised products, one on each line"
        hint="Ids, names or categories, as the shop reports them. Arrivals tells what was bought of them."
      >
        <textarea
          className="input h-16 py-1"
          value={(written.advertises ?? []).join('\n')}
          onChange={(e) => set({ advertises: e.target.value.split('\n') })}
        />
      </FormField>
      {attributes.data?.map((attribute) => (
        <label key={attribute.name} className="flex flex-col gap-1">
          <span className="caption">{attribute.name}</span>
          <input
            className="input"
            list={`values-${attribute.name}`}
            value={written.attributes?.[attribute.name] ?? ''}
            onChange={(e) => set({ attributes: { ...written.attributes, [attribute.name]: e.target.value } })}
          />
          <datalist id={`values-${attribute.name}`}>
            {attribute.values.map((value) => (
              <option key={value} value={value} />
            ))}
          </datalist>
        </label>
      ))}
      {save.isError && !theirs && (
        <p role="alert" className="text-error">
          {save.error.message}
        </p>
      )}
      <button type="submit" className="button-main self-start" disabled={save.isPending}>
        {campaign ? 'Save campaign' : 'Add campaign'}
      </button>
    </form>
  );
}

/** What differs between what was written here and what somebody else saved. */
function differences(mine: Written, theirs: CampaignAnswer): [string, string, string][] {
  const rows: [string, string, string][] = [
    ['Name', mine.name ?? '', theirs.name],
    ['Dates', datesOf({ startsOn: mine.startsOn ?? null, endsOn: mine.endsOn ?? null }), datesOf(theirs)],
    ['Tags', mine.value ?? '', theirs.value],
    ['Owner', mine.owner ?? '', theirs.owner ?? ''],
    ['Budget', String(mine.budget ?? ''), String(theirs.budget ?? '')],
    ['Goal', mine.goal ?? '', theirs.goal ?? ''],
    ['Advertised', (mine.advertises ?? []).filter(Boolean).join(', '), theirs.advertises.join(', ')],
    ...Object.keys({ ...mine.attributes, ...theirs.attributes }).map((name): [string, string, string] => [
      name,
      mine.attributes?.[name] ?? '',
      theirs.attributes[name] ?? '',
    ]),
  ];
  return rows.filter(([, a, b]) => a !== b);
}
