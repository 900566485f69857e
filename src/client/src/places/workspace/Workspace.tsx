import { useSearchParams } from 'react-router';
import { PartTabs } from '../../parts/PartTabs';
import { Keys } from './Keys';
import { LinkWriting } from './LinkWriting';
import { RefusedHosts } from './RefusedHosts';
import { ShortDomains } from './ShortDomains';
import { Sites } from './Sites';

const parts = [
  ['keys', 'Keys'],
  ['sites', 'Sites'],
  ['domains', 'Short domains'],
  ['hosts', 'Blocked hosts'],
  ['writing', 'Link writing'],
] as const;
type Part = (typeof parts)[number][0];

/** What belongs to the workspace as a whole. */
export function Workspace() {
  const [search, setSearch] = useSearchParams();
  const at: Part = parts.find(([part]) => part === search.get('part'))?.[0] ?? 'keys';
  const tabs = <PartTabs label="Parts of the workspace" parts={parts} at={at} onGo={(part) => setSearch({ part })} />;
  return at === 'sites' ? (
    <Sites tabs={tabs} />
  ) : at === 'domains' ? (
    <ShortDomains tabs={tabs} />
  ) : at === 'hosts' ? (
    <RefusedHosts tabs={tabs} />
  ) : at === 'writing' ? (
    <LinkWriting tabs={tabs} />
  ) : (
    <Keys tabs={tabs} />
  );
}
