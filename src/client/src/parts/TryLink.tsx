import { useMutation, useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { latestTrialQuery, trialStart } from '../api/trials';
import { ago, exact } from './format';
import { usePerson } from './person';
import { SeverityMark } from './SeverityMark';
import { markOf } from './trialMark';

/** Begins a trial run of a link, and says what came of the last one. */
export function TryLink({ linkId, className = 'button' }: { linkId: string; className?: string }) {
  const person = usePerson();
  const navigate = useNavigate();
  const latest = useQuery(latestTrialQuery(linkId));
  const start = useMutation({ ...trialStart(), onSuccess: (trial) => navigate(`/proof?trial=${trial.id}`) });
  const mark = latest.data && markOf(latest.data.verdict);
  return (
    <span className="flex min-w-0 flex-wrap items-center gap-2">
      {person.role !== 'viewer' && (
        <button type="button" className={className} disabled={start.isPending} onClick={() => start.mutate(linkId)}>
          {start.isPending ? 'Fetching the page …' : 'Try it'}
        </button>
      )}
      {latest.data && (
        <Link className="flex min-w-0 items-center gap-1.5 hover:underline" to={`/proof?trial=${latest.data.id}`}>
          {mark && <SeverityMark severity={mark} size={12} />}
          <span className="caption min-w-0" title={exact(latest.data.startedAt)}>
            Tried {ago(latest.data.startedAt)}
            {latest.data.visit && `: arrives as ${latest.data.visit.channel}`}
            {!latest.data.visit && latest.data.verdict === 'fails' && ': failed'}
          </span>
        </Link>
      )}
      {start.isError && (
        <span role="alert" className="w-full text-error">
          {start.error.message}
        </span>
      )}
    </span>
  );
}
