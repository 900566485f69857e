import { useMutation, useQuery } from '@tanstack/react-query';
import { format, isPast } from 'date-fns';
import { Link } from 'react-router';
import { ago, count, counted, exact } from '../../../parts/format';
import { SeverityMark } from '../../../parts/SeverityMark';
import { markOf } from '../../../parts/trialMark';
import { useTick } from '../../../parts/useTick';
import { TrialStations } from '../../proof/TrialStations';
import { mailTrialQuery, mailTrialStart } from './queries';

interface MailTrialProps {
  id: string;
  /** Links were written into the mail. */
  isWritten: boolean;
  mayWrite: boolean;
}

/** The mail’s links, each with how far it was tried as somebody clicks it in the inbox. */
export function MailTrial({ id, isWritten, mayWrite }: MailTrialProps) {
  useTick(10_000);
  const read = useQuery(mailTrialQuery(id));
  const start = useMutation(mailTrialStart(id));
  const trial = read.data;
  const over = trial?.endsAt ? isPast(new Date(trial.endsAt)) : false;
  return (
    <section aria-label="Trial" className="min-h-0 flex-1 overflow-auto bg-sheet px-5 py-4">
      <div className="flex max-w-6xl flex-wrap items-center gap-3">
        {trial?.startedAt && (
          <p role="status" className="text-base font-medium">
            {trial.tried} of {counted(trial.links.length, 'link')} tried
            {trial.failed > 0 && `, ${count(trial.failed)} failed`}
          </p>
        )}
        <span className="flex-1" />
        {trial?.startedAt && trial.inbox && !over && (
          <a className="button" href={start.data?.inbox ?? trial.inbox} target="_blank" rel="noreferrer">
            Open inbox
          </a>
        )}
        {mayWrite && trial?.inbox && (
          <button
            type="button"
            className={trial.startedAt ? 'button' : 'button-main'}
            disabled={start.isPending || !isWritten}
            onClick={() => start.mutate()}
          >
            {start.isPending ? 'Fetching the pages …' : trial.startedAt ? 'Try again' : 'Send it for a trial'}
          </button>
        )}
      </div>
      {[read.error, start.error].map(
        (error, i) =>
          error && (
            <p key={i} role="alert" className="mt-2 text-error">
              {error.message}
            </p>
          ),
      )}
      {trial && !trial.startedAt && (
        <div className="max-w-xl">
          <p>
            The mail goes to the test inbox with an address of its own for each link. Click them there: each lights up
            here as it is clicked, redirected, measured and sorted.
          </p>
          <p className="mt-2 text-quiet">
            {!isWritten
              ? 'Write the links into the mail first.'
              : trial.inbox
                ? 'Nothing of it is counted, and mail scanners use nothing up.'
                : 'This installation has no test inbox. Try the links one by one from the Ledger.'}
          </p>
        </div>
      )}
      {trial?.startedAt && (
        <>
          <p className="caption mt-1">
            Sent by {trial.startedBy}, <span title={exact(trial.startedAt)}>{ago(trial.startedAt)}</span>.{' '}
            {over
              ? `The addresses ended at ${format(new Date(trial.endsAt!), 'HH:mm')}.`
              : `The addresses work until ${format(new Date(trial.endsAt!), 'HH:mm')}. Nothing is counted.`}
            {trial.left > 0 &&
              ` ${counted(trial.left, 'link')} can’t be tried: deleted, or waiting for the host to be approved.`}
          </p>
          <ul aria-label="Links tried" className="mt-3 flex max-w-6xl flex-col">
            {trial.links.map(({ number, text, trial: one }) => (
              <li key={one.id} className="border-b border-line">
                <Link
                  to={`/proof?trial=${one.id}`}
                  className="grid grid-cols-[2rem_1fr_220px] items-center gap-x-3 gap-y-1 py-2 hover:bg-accent-wash max-sm:grid-cols-[2rem_1fr]"
                >
                  <span className="text-right text-quiet tabular-nums">{number}</span>
                  <span className="flex min-w-0 items-start gap-2">
                    <span className="mt-0.5 w-4 shrink-0">
                      {markOf(one.verdict) && <SeverityMark severity={markOf(one.verdict)!} />}
                    </span>
                    <span className="min-w-0">
                      <span className="block truncate font-medium">{text || one.title || one.url}</span>
                      <span className="caption block">
                        {one.verdict === 'waiting' ? (one.findings[0]?.message ?? 'Not opened yet.') : one.says}
                      </span>
                    </span>
                  </span>
                  <TrialStations trial={one} small />
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
