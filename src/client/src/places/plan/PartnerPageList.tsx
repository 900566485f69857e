import { useMutation, useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { useCampaigns, usePlacements } from '../../api/known';
import { CopyButton } from '../../parts/CopyButton';
import { ago, count, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { Inspector } from '../../parts/Inspector';
import { usePerson } from '../../parts/person';
import { Picker } from '../../parts/Picker';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';
import { partnerPagesQuery, partnerPageRevoke, partnerPageMake } from './queries';
import { allPlacementsQuery } from '../../api/queries';

/** Pages for partners: whom they are for, what is on them, and when they were opened. */
export function PartnerPageList({ parts }: { parts: ReactNode }) {
  const person = usePerson();
  const [making, setMaking] = useState(false);
  const mayWrite = person.role !== 'viewer';
  const pages = useQuery(partnerPagesQuery());
  const placements = useQuery(allPlacementsQuery());
  const revoke = useMutation(partnerPageRevoke());
  const open = pages.data?.filter((p) => p.revokedAt === null).length ?? 0;
  const names = (ids: string[]) =>
    ids
      .map((id) => placements.data?.find((p) => p.id === id)?.name)
      .filter(Boolean)
      .join(', ');

  return (
    <>
      <Head
        title="Plan"
        state={pages.data && `${count(open)} ${open === 1 ? 'partner page is' : 'partner pages are'} open`}
      >
        {parts}
        {mayWrite && (
          <button type="button" className="button-main" onClick={() => setMaking(true)}>
            <Plus size={14} strokeWidth={1.5} /> Share with a partner
          </button>
        )}
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="min-h-0 min-w-0 flex-1 overflow-auto bg-sheet">
          <table className="w-full">
            <thead className="sticky top-0 z-10 bg-sheet">
              <tr className="h-[34px] border-b border-line text-left text-xs text-quiet">
                {['For', 'Links of', 'Links', 'Opened', 'Created', ''].map((head) => (
                  <th key={head} className={`px-3 font-medium first:pl-5 ${head === 'Links' ? 'text-right' : ''}`}>
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {pages.data?.map((page) => (
                <tr key={page.id} className={`h-[42px] border-b border-line ${page.revokedAt ? 'text-quiet' : ''}`}>
                  <td className="px-3 pl-5">{page.name}</td>
                  <td className="max-w-80 px-3">
                    <span className="block truncate" title={names(page.placements)}>
                      {names(page.placements)}
                    </span>
                    {page.campaign && <span className="caption">only {page.campaign}</span>}
                  </td>
                  <td className="px-3 text-right tabular-nums">{count(page.links)}</td>
                  <td
                    className="px-3 whitespace-nowrap"
                    title={page.lastOpenedAt ? exact(page.lastOpenedAt) : undefined}
                  >
                    {page.openings === 0 ? 'not yet' : `${count(page.openings)} × · last ${ago(page.lastOpenedAt!)}`}
                  </td>
                  <td className="px-3 whitespace-nowrap" title={exact(page.createdAt)}>
                    {ago(page.createdAt)} by {page.createdBy}
                  </td>
                  <td className="px-3 pr-5 text-right whitespace-nowrap">
                    {page.address ? (
                      <>
                        <a className="button-plain" href={page.address} target="_blank" rel="noreferrer">
                          Open
                        </a>
                        <CopyButton text={page.address} label="Copy address" />
                        {mayWrite && (
                          <button type="button" className="button-plain" onClick={() => revoke.mutate(page.id)}>
                            Revoke
                          </button>
                        )}
                      </>
                    ) : (
                      `revoked ${ago(page.revokedAt!)}`
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {pages.data?.length === 0 && (
            <p className="p-8 text-quiet">
              No partner pages yet. A partner gets a private address with their own links, texts and codes, and needs no
              account.
            </p>
          )}
        </div>
        {making && <HandOverForm onClose={() => setMaking(false)} />}
      </div>
    </>
  );
}

function HandOverForm({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState('');
  const [note, setNote] = useState('');
  const [picked, setPicked] = useState<string[] | null>(null);
  const [campaign, setCampaign] = useState('');
  const placements = usePlacements();
  const campaigns = useCampaigns();
  const make = useMutation(partnerPageMake());
  const placementsOf = (publisher: string) =>
    (placements.data ?? []).filter((p) => p.publisher === publisher).map((p) => p.id);
  // A publisher brings their placements along, also when those arrive after the name was typed.
  const chosen = picked ?? placementsOf(name);
  const publishers = [
    ...new Set((placements.data ?? []).map((p) => p.publisher).filter((p): p is string => p !== null)),
  ];
  return (
    <Inspector title="Share with a partner" onClose={onClose}>
      <FormField label="Partner">
        <input
          className="input"
          autoFocus
          list="publishers"
          value={name}
          onChange={(e) => {
            setName(e.target.value);
            if (placementsOf(e.target.value).length) setPicked(null);
          }}
        />
        <datalist id="publishers">
          {publishers.map((publisher) => (
            <option key={publisher} value={publisher} />
          ))}
        </datalist>
      </FormField>
      <div className="flex flex-col gap-1">
        <span className="caption">Links of these placements, including future ones</span>
        <Picker
          label="Placements"
          empty="choose placements"
          several
          options={(placements.data ?? []).map((p) => ({
            value: p.id,
            label: p.name,
            detail: p.publisher ?? p.channel,
          }))}
          chosen={chosen}
          onChange={setPicked}
        />
      </div>
      <FormField label="Campaign">
        <Select
          value={campaign}
          onChange={setCampaign}
          options={[['', 'all campaigns'], ...(campaigns.data?.map((c) => [c.id, c.name] as const) ?? [])]}
        />
      </FormField>
      <FormField label="Message">
        <textarea className="input h-20 py-1" value={note} onChange={(e) => setNote(e.target.value)} />
      </FormField>
      {make.isError && (
        <p role="alert" className="text-error">
          {make.error.message}
        </p>
      )}
      {make.data?.address ? (
        <div className="rounded border border-line-strong p-3">
          <p>
            The page has {count(make.data.links)} {make.data.links === 1 ? 'link' : 'links'}. Anyone with this address
            can view it:
          </p>
          <p className="my-1 font-mono text-xs break-all">{make.data.address}</p>
          <CopyButton text={make.data.address} label="Copy address" className="button" />
        </div>
      ) : (
        <button
          type="button"
          className="button-main self-start"
          disabled={make.isPending}
          onClick={() => make.mutate({ name, note: note || null, placements: chosen, campaign: campaign || null })}
        >
          Create page
        </button>
      )}
    </Inspector>
  );
}
