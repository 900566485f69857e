import { useSearchParams } from 'react-router';
import { PartTabs } from '../../parts/PartTabs';
import { Changes } from '../audit/Changes';
import { ConversionKinds } from './ConversionKinds';
import { Keys } from './Keys';
import { LinkWriting } from './LinkWriting';
import { OutgoingMails } from './OutgoingMails';
import { People } from '../people/People';
import { RefusedHosts } from './RefusedHosts';
import { ShortDomains } from './ShortDomains';
import { Sites } from './Sites';

const parts = [
  ['people', 'People'],
  ['keys', 'Keys'],
  ['sites', 'Sites'],
  ['conversions', 'Conversions'],
  ['domains', 'Short domains'],
  ['hosts', 'Blocked hosts'],
  ['writing', 'Link writing'],
  ['mail', 'Outgoing mail'],
  ['changes', 'Changes'],
] as const;
type Part = (typeof parts)[number][0];

/** What belongs to the workspace as a whole. */
export function Workspace() {
  const [search, setSearch] = useSearchParams();
  const at: Part = parts.find(([part]) => part === search.get('part'))?.[0] ?? 'people';
  const tabs = <PartTabs label="Parts of the workspace" parts={parts} at={at} onGo={(part) => setSearch({ part })} />;
  return at === 'sites' ? (
    <Sites tabs={tabs} />
  ) : at === 'conversions' ? (
    <ConversionKinds tabs={tabs} />
  ) : at === 'domains' ? (
    <ShortDomains tabs={tabs} />
  ) : at === 'hosts' ? (
    <RefusedHosts tabs={tabs} />
  ) : at === 'writing' ? (
    <LinkWriting tabs={tabs} />
  ) : at === 'mail' ? (
    <OutgoingMails tabs={tabs} />
  ) : at === 'changes' ? (
    <Changes tabs={tabs} />
  ) : at === 'keys' ? (
    <Keys tabs={tabs} />
  ) : (
    <People tabs={tabs} />
  );
}
