import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { useFields } from '../../api/known';
import { FormField } from '../../parts/FormField';
import { usePerson } from '../../parts/person';
import { Select } from '../../parts/Select';
import { addressesOf } from './SiteCard';
import { siteChange, siteKeyRenew, siteRemove } from './queries';

const styles = [
  ['query', 'in the query (after ?)'],
  ['fragment', 'in the fragment (after #)'],
] as const;

const numberOf = (text: string) => Number(text.replace(',', '.'));

/** What an owner decides of a site; others read it. */
export function SiteSettings({ site }: { site: Schema['MeasuredSiteAnswer'] }) {
  const owner = usePerson().role === 'owner';
  const [name, setName] = useState(site.name);
  const [hosts, setHosts] = useState(addressesOf(site).join('\n'));
  const [limit, setLimit] = useState(String(site.largestValue));
  const [style, setStyle] = useState<string>(site.style);
  const [ids, setIds] = useState(site.keepsVisitorIds);
  const [optOut, setOptOut] = useState(site.honoursOptOut);
  const [learns, setLearns] = useState(site.sourceFields);
  const fields = useFields();
  const save = useMutation(siteChange(site.id));
  const measure = useMutation(siteChange(site.id));
  const renew = useMutation(siteKeyRenew(site.id));
  const remove = useMutation(siteRemove(site.id));
  const [sure, setSure] = useState(false);
  const problem = save.error ?? measure.error ?? renew.error ?? remove.error;
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate({
          name,
          hosts: hosts.split(/\s+/).filter(Boolean),
          largestValue: numberOf(limit),
          style: style as Schema['TagStyle'],
          keepsVisitorIds: ids,
          honoursOptOut: optOut,
          sourceFields: learns,
        });
      }}
    >
      <fieldset disabled={!owner} className="flex flex-col gap-3">
        <div className="flex flex-wrap gap-3">
          <FormField label="Name" className="w-64">
            <input className="input" value={name} maxLength={100} onChange={(e) => setName(e.target.value)} />
          </FormField>
          <FormField label="Tags of links to it">
            <Select className="w-60" value={style} onChange={setStyle} options={styles} disabled={!owner} />
          </FormField>
          <FormField label="Largest value of a conversion">
            <input
              className="input w-48 text-right tabular-nums"
              inputMode="decimal"
              value={limit}
              onChange={(e) => setLimit(e.target.value)}
            />
          </FormField>
        </div>
        <FormField
          label="Hosts, one on each line"
          hint="Reports are taken from pages on these hosts only. Write http:// before a host without https."
        >
          <textarea
            className="input h-20 py-1 font-mono text-xs"
            value={hosts}
            onChange={(e) => setHosts(e.target.value)}
          />
        </FormField>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={optOut} onChange={(e) => setOptOut(e.target.checked)} />
          Leave out visitors whose browser asks not to be tracked (Do Not Track, Global Privacy Control)
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={ids} onChange={(e) => setIds(e.target.checked)} />
          Keep an id in visitors’ browsers, to know them on later days. Ask your visitors first.
        </label>
        <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
          <legend className="caption pb-1">
            Pages may learn these of where their visitor came from, by beacon.source(); none unless you choose them
          </legend>
          {fields.data?.map((f) => (
            <label key={f.key} className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={learns.includes(f.key)}
                onChange={(e) => setLearns(e.target.checked ? [...learns, f.key] : learns.filter((k) => k !== f.key))}
              />
              {f.label}
            </label>
          ))}
        </fieldset>
      </fieldset>
      {problem && (
        <p role="alert" className="text-error">
          {problem.message}
        </p>
      )}
      {owner && (
        <div className="flex flex-wrap items-center gap-2">
          <button
            type="submit"
            className="button-main"
            disabled={save.isPending || !name.trim() || !hosts.trim() || !(numberOf(limit) > 0)}
          >
            Save
          </button>
          {save.isSuccess && <span role="status">Saved</span>}
          <span className="ml-auto flex gap-2">
            <button
              type="button"
              className="button"
              disabled={measure.isPending}
              onClick={() => measure.mutate({ isMeasured: site.stoppedAt !== null })}
            >
              {site.stoppedAt ? 'Measure again' : 'Stop measuring'}
            </button>
            <button type="button" className="button" onClick={() => setSure(!sure)} aria-expanded={sure}>
              New key …
            </button>
            <button type="button" className="button" disabled={remove.isPending} onClick={() => remove.mutate()}>
              Remove
            </button>
          </span>
        </div>
      )}
      {sure && (
        <div className="flex flex-wrap items-center gap-3 rounded border border-line-strong p-3">
          <span>Pages with the key {site.measuringKey} are not measured until they have the new tag.</span>
          <button
            type="button"
            className="button-main"
            disabled={renew.isPending}
            onClick={() => renew.mutate(undefined, { onSuccess: () => setSure(false) })}
          >
            Create new key
          </button>
          <button type="button" className="button" onClick={() => setSure(false)}>
            Cancel
          </button>
        </div>
      )}
    </form>
  );
}
