import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { ago, counted, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { SeverityMark } from '../../parts/SeverityMark';
import { markOf } from '../../parts/trialMark';
import { TrialStations } from './TrialStations';
import { trialsQuery } from './queries';

/** The newest trial runs, each with its four steps and what came of it. */
export function TrialList({ tabs }: { tabs: ReactNode }) {
  const trials = useQuery(trialsQuery());
  const failed = trials.data?.filter((t) => t.verdict === 'fails').length ?? 0;
  return (
    <>
      <Head
        title="Trial runs"
        state={
          trials.data &&
          trials.data.length > 0 &&
          `${counted(trials.data.length, 'trial')}${failed > 0 ? `, ${failed} failed` : ''}`
        }
      >
        {tabs}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        {trials.isError && (
          <p role="alert" className="text-error">
            {trials.error.message}
          </p>
        )}
        {trials.data?.length === 0 && (
          <div className="max-w-xl">
            <p>
              A trial run follows one click all the way: clicked, redirected, arrived with its tags, measured and
              sorted.
            </p>
            <p className="mt-2 text-quiet">
              Select a link in the{' '}
              <Link className="text-accent underline" to="/ledger">
                Ledger
              </Link>{' '}
              and press “Try it”. You can open it on a phone too. Trials are in no figure.
            </p>
          </div>
        )}
        {trials.data && trials.data.length > 0 && (
          <ul aria-label="Trial runs" className="flex max-w-5xl flex-col">
            {trials.data.map((trial) => (
              <li key={trial.id} className="border-b border-line">
                <Link
                  to={`/proof?trial=${trial.id}`}
                  className="grid grid-cols-[1fr_220px] items-center gap-x-6 gap-y-1 py-3 hover:bg-accent-wash max-sm:grid-cols-1"
                >
                  <span className="flex min-w-0 items-start gap-2">
                    <span className="mt-0.5 w-4">
                      {markOf(trial.verdict) && <SeverityMark severity={markOf(trial.verdict)!} />}
                    </span>
                    <span className="min-w-0">
                      <span className="block truncate font-medium">{trial.title ?? trial.url}</span>
                      <span className="block">{trial.says}</span>
                      <span className="caption">
                        by {trial.startedBy}, <span title={exact(trial.startedAt)}>{ago(trial.startedAt)}</span>
                      </span>
                    </span>
                  </span>
                  <TrialStations trial={trial} small />
                </Link>
              </li>
            ))}
          </ul>
        )}
      </div>
    </>
  );
}
