import { useSearchParams } from 'react-router';
import { PartTabs } from '../../parts/PartTabs';
import { ClickGaps } from './ClickGaps';
import { Findings } from './Findings';
import { PageChecks } from './PageChecks';
import { Reconcile } from './Reconcile';
import { Strays } from './Strays';
import { TrialList } from './TrialList';
import { TrialView } from './TrialView';
import { VariantTests } from './VariantTests';

const parts = [
  ['findings', 'Findings'],
  ['trials', 'Trial runs'],
  ['pages', 'Page checks'],
  ['strays', 'Strays'],
  ['gaps', 'Clicks and visits'],
  ['reconcile', 'Reconcile'],
  ['variants', 'Variant tests'],
] as const;
type Part = (typeof parts)[number][0];

/** Trying links before they go out, and checking what came of them. */
export function Proof() {
  const [search, setSearch] = useSearchParams();
  const trial = search.get('trial');
  if (trial) return <TrialView id={trial} />;
  const at: Part = parts.find(([part]) => part === search.get('part'))?.[0] ?? 'findings';
  const tabs = <PartTabs label="Parts of Proof" parts={parts} at={at} onGo={(part) => setSearch({ part })} />;
  return at === 'variants' ? (
    <VariantTests tabs={tabs} />
  ) : at === 'gaps' ? (
    <ClickGaps tabs={tabs} />
  ) : at === 'reconcile' ? (
    <Reconcile tabs={tabs} />
  ) : at === 'pages' ? (
    <PageChecks tabs={tabs} />
  ) : at === 'strays' ? (
    <Strays tabs={tabs} />
  ) : at === 'trials' ? (
    <TrialList tabs={tabs} />
  ) : (
    <Findings tabs={tabs} />
  );
}
