import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { type Schema } from '../../api/client';
import { useCampaigns, usePlacements } from '../../api/known';
import { CopyButton } from '../../parts/CopyButton';
import { ago, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';
import { keysQuery, keyMake, keyRevoke } from './queries';

const roles = [
  ['shortener', 'can only shorten'],
  ['measuring', 'can only report conversions'],
  ['viewer', 'can view everything'],
  ['editor', 'can create links'],
  ['owner', 'can do everything'],
] as const;

/** When a new key stops working by itself, in days. */
const terms = [
  ['', 'never'],
  ['30', 'after 30 days'],
  ['90', 'after 90 days'],
  ['365', 'after a year'],
] as const;

/** API keys, and the pattern for those that only know an address with a link in it. */
export function Keys({ tabs }: { tabs: ReactNode }) {
  const person = usePerson();
  const owner = person.role === 'owner';
  const [name, setName] = useState('');
  const [role, setRole] = useState('shortener');
  const [days, setDays] = useState('');
  const [made, setMade] = useState<Schema['KeyMade'] | null>(null);
  const keys = useQuery({ ...keysQuery(), enabled: owner });
  const make = useMutation({
    ...keyMake(),
    onSuccess: (key) => {
      setMade(key);
      setName('');
    },
  });
  const revoke = useMutation(keyRevoke());
  const working = keys.data?.filter((k) => !k.revokedAt && !isOver(k)).length;
  return (
    <>
      <Head title="API keys" state={working !== undefined && `${working} ${working === 1 ? 'key works' : 'keys work'}`}>
        {tabs}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        {!owner ? (
          <p className="text-quiet">Only owners create and revoke keys. Ask an owner for a key.</p>
        ) : (
          <div className="flex max-w-4xl flex-col gap-8">
            <form
              className="flex flex-wrap items-end gap-3"
              onSubmit={(e) => {
                e.preventDefault();
                make.mutate({ name, role, days: days ? Number(days) : null });
              }}
            >
              <FormField label="Purpose">
                <input className="input w-72" value={name} maxLength={100} onChange={(e) => setName(e.target.value)} />
              </FormField>
              <FormField label="Permission">
                <Select
                  className="w-56"
                  value={role}
                  onChange={setRole}
                  options={roles.map(([value, says]) => [value, `${value}: ${says}`] as const)}
                />
              </FormField>
              <FormField label="Expires">
                <Select className="w-36" value={days} onChange={setDays} options={terms} />
              </FormField>
              <button type="submit" className="button-main" disabled={make.isPending || !name.trim()}>
                Create key
              </button>
              {make.isError && (
                <p role="alert" className="w-full text-error">
                  {make.error.message}
                </p>
              )}
            </form>
            {made && (
              <section className="rounded border border-accent p-4" aria-label="The new key">
                <p className="mb-2">
                  The key for <span className="font-medium">{made.key.name}</span>. It is shown only once and not
                  stored; copy it now.
                </p>
                <p className="flex items-center gap-3">
                  <span className="font-mono text-xs break-all">{made.secret}</span>
                  <CopyButton text={made.secret} label="Copy key" />
                </p>
              </section>
            )}
            <PatternMaker secret={made?.key.role === 'shortener' ? made.secret : undefined} />
            <table className="w-full border-separate border-spacing-0">
              <thead className="text-left text-xs text-quiet">
                <tr className="[&>th]:border-b [&>th]:border-line [&>th]:py-2 [&>th]:pr-4 [&>th]:font-medium">
                  <th scope="col">For</th>
                  <th scope="col">Permission</th>
                  <th scope="col">Created</th>
                  <th scope="col">Last used</th>
                  <th scope="col">Expires</th>
                  <th scope="col" />
                </tr>
              </thead>
              <tbody>
                {keys.data?.map((key) => (
                  <tr key={key.id} className="[&>td]:border-b [&>td]:border-line [&>td]:py-1.5 [&>td]:pr-4">
                    <td>
                      {key.name}
                      {key.demoOnly && <span className="caption"> · demo only</span>}
                    </td>
                    <td>{roles.find(([r]) => r === key.role)?.[1]}</td>
                    <td title={exact(key.createdAt)}>{ago(key.createdAt)}</td>
                    <td title={key.lastUsedAt ? exact(key.lastUsedAt) : undefined}>
                      {key.lastUsedAt ? ago(key.lastUsedAt) : 'never'}
                    </td>
                    <td title={key.expiresAt ? exact(key.expiresAt) : undefined}>
                      {!key.expiresAt ? 'never' : isOver(key) ? 'expired' : ago(key.expiresAt)}
                    </td>
                    <td className="text-right">
                      {key.revokedAt ? (
                        <span className="text-quiet" title={exact(key.revokedAt)}>
                          revoked {ago(key.revokedAt)}
                        </span>
                      ) : (
                        <button
                          type="button"
                          className="button-plain"
                          aria-label={`Revoke ${key.name}`}
                          onClick={() => revoke.mutate(key.id)}
                        >
                          Revoke
                        </button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </div>
    </>
  );
}

const isOver = (key: Schema['KeyAnswer']): boolean => !!key.expiresAt && new Date(key.expiresAt) <= new Date();

/** The address to paste into a tool that only knows a pattern with the long link at its end. */
function PatternMaker({ secret }: { secret?: string }) {
  const placements = usePlacements();
  const campaigns = useCampaigns();
  const [placement, setPlacement] = useState('');
  const [campaign, setCampaign] = useState('');
  const query = new URLSearchParams({ key: secret ?? 'YOUR-KEY' });
  if (placement) query.set('placement', placement);
  if (campaign) query.set('campaign', campaign);
  const pattern = `${window.location.origin}/api/v1/shorten?${query.toString().replaceAll('+', '%20')}&url=`;
  return (
    <section className="flex flex-col gap-3">
      <h2 className="font-semibold">URL pattern for tools that only shorten</h2>
      <p className="text-quiet">
        Paste it where the tool asks for a shortener address; the tool appends the long link. Existing tags stay, the
        placement’s default values are added, and the same link always gets the same short link.
      </p>
      <div className="flex gap-3">
        <Select
          className="w-60"
          label="Placement"
          value={placement}
          onChange={setPlacement}
          options={[['', 'No placement'], ...(placements.data?.map((p) => [p.name, p.name] as const) ?? [])]}
        />
        <Select
          className="w-60"
          label="Campaign"
          value={campaign}
          onChange={setCampaign}
          options={[['', 'No campaign'], ...(campaigns.data?.map((c) => [c.name, c.name] as const) ?? [])]}
        />
      </div>
      <p className="flex items-center gap-3 rounded border border-line p-3">
        <span className="min-w-0 font-mono text-xs break-all" aria-label="Pattern">
          {pattern}
        </span>
        <CopyButton text={pattern} label="Copy pattern" />
      </p>
    </section>
  );
}
