import { useSearchParams } from 'react-router';
import { PartTabs } from '../../parts/PartTabs';
import { TrialList } from './TrialList';
import { TrialView } from './TrialView';
import { VariantTests } from './VariantTests';

const parts = [
  ['trials', 'Trial runs'],
  ['variants', 'Variant tests'],
] as const;
type Part = (typeof parts)[number][0];

/** Trying links before they go out, and checking what came of them. */
export function Proof() {
  const [search, setSearch] = useSearchParams();
  const trial = search.get('trial');
  if (trial) return <TrialView id={trial} />;
  const at: Part = parts.find(([part]) => part === search.get('part'))?.[0] ?? 'trials';
  const tabs = <PartTabs label="Parts of Proof" parts={parts} at={at} onGo={(part) => setSearch({ part })} />;
  return at === 'variants' ? <VariantTests tabs={tabs} /> : <TrialList tabs={tabs} />;
}
