import { useSearchParams } from 'react-router';
import { TrialList } from './TrialList';
import { TrialView } from './TrialView';

/** Trying links before they go out. */
export function Proof() {
  const [search] = useSearchParams();
  const trial = search.get('trial');
  return trial ? <TrialView id={trial} /> : <TrialList />;
}
