import { useMutation, useQuery } from '@tanstack/react-query';
import { format, isPast } from 'date-fns';
import { Link, useNavigate } from 'react-router';
import { trialStart } from '../../api/trials';
import { CopyButton } from '../../parts/CopyButton';
import { ago, counted, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { SeverityMark } from '../../parts/SeverityMark';
import { markOf } from '../../parts/trialMark';
import { useTick } from '../../parts/useTick';
import { Hops } from './Hops';
import { TrialStations } from './TrialStations';
import { trialQuery } from './queries';
import type { Trial } from './trial';

/** One trial run: the address to open, the four steps as they happen, and what was found on the way. */
export function TrialView({ id }: { id: string }) {
  const read = useQuery(trialQuery(id));
  const trial = read.data;
  return (
    <>
      <Head
        title="Trial run"
        state={
          trial && (
            <>
              {trial.title ?? trial.url} · by {trial.startedBy},{' '}
              <span title={exact(trial.startedAt)}>{ago(trial.startedAt)}</span>
            </>
          )
        }
      >
        <Link className="button" to="/proof?part=trials">
          All trial runs
        </Link>
        {trial && <Again trial={trial} />}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        {read.isError && (
          <p role="alert" className="text-error">
            {read.error.message}
          </p>
        )}
        {trial && (
          <div className="flex max-w-6xl gap-10 max-lg:flex-col-reverse">
            <div className="flex min-w-0 flex-1 flex-col gap-6">
              <TrialStations trial={trial} />
              <Verdict trial={trial} />
              <Findings trial={trial} />
              <Way trial={trial} />
              {trial.visit && <Arrived visit={trial.visit} />}
            </div>
            <Opening trial={trial} />
          </div>
        )}
      </div>
    </>
  );
}

function Again({ trial }: { trial: Trial }) {
  const person = usePerson();
  const navigate = useNavigate();
  const start = useMutation({ ...trialStart(), onSuccess: (next) => navigate(`/proof?trial=${next.id}`) });
  if (person.role === 'viewer') return null;
  return (
    <>
      {start.isError && (
        <span role="alert" className="text-error">
          {start.error.message}
        </span>
      )}
      <button type="button" className="button" disabled={start.isPending} onClick={() => start.mutate(trial.linkId)}>
        {start.isPending ? 'Fetching the page …' : 'Try again'}
      </button>
    </>
  );
}

function Verdict({ trial }: { trial: Trial }) {
  const mark = markOf(trial.verdict);
  return (
    <p className="flex items-start gap-2 text-base" role="status">
      {mark && (
        <span className="mt-1">
          <SeverityMark severity={mark} size={16} />
        </span>
      )}
      <span>{trial.says}</span>
    </p>
  );
}

function Findings({ trial }: { trial: Trial }) {
  // The gravest of a trial that failed stands above already.
  const findings = trial.findings.filter((f) => f.message !== trial.says);
  if (findings.length === 0) return null;
  return (
    <section>
      <h2 className="mb-2 font-semibold">Found</h2>
      <ul aria-label="Findings" className="flex flex-col gap-2">
        {findings.map((finding, i) => (
          <li key={i} className="flex gap-2">
            <span className="mt-0.5">
              <SeverityMark severity={finding.severity} />
            </span>
            <span className="min-w-0 break-words">{finding.message}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The requests on the way to the page, as the server made them before the trial. */
function Way({ trial }: { trial: Trial }) {
  return (
    <section>
      <h2 className="mb-2 font-semibold">The way to the page</h2>
      <Hops label="With tags" hops={trial.hops} faulty={trial.findings.flatMap((f) => f.hop ?? [])} />
      {trial.plainHops.length > 0 && <Hops label="Without tags" hops={trial.plainHops} faulty={[]} />}
      {trial.pageTitle && <p className="caption mt-1">The page is “{trial.pageTitle}”.</p>}
    </section>
  );
}

function Arrived({ visit }: { visit: NonNullable<Trial['visit']> }) {
  const tags = Object.entries(visit.tags);
  return (
    <section>
      <h2 className="mb-2 font-semibold">What arrived</h2>
      <p className="font-mono text-xs break-all">{visit.page}</p>
      {tags.length === 0 ? (
        <p className="text-quiet">No tags.</p>
      ) : (
        <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 font-mono text-xs">
          {tags.map(([key, value]) => (
            <div key={key} className="contents">
              <dt className="text-quiet">{key}</dt>
              <dd className="break-all">{value}</dd>
            </div>
          ))}
        </dl>
      )}
    </section>
  );
}

/** The address as a button, a code and text; after its time a word that it is over. */
function Opening({ trial }: { trial: Trial }) {
  useTick(10_000);
  const over = isPast(new Date(trial.endsAt));
  return (
    <section aria-label="Open it" className="w-64 shrink-0 max-lg:w-full">
      <h2 className="mb-2 font-semibold">Open it</h2>
      {over ? (
        <p className="text-quiet">
          The address ended at {format(new Date(trial.endsAt), 'HH:mm')}. Try again for a new one.
        </p>
      ) : (
        <div className="flex flex-col gap-3">
          <a className="button-main self-start" href={trial.address} target="_blank" rel="noreferrer">
            Open here
          </a>
          <figure>
            <img
              src={`/api/v1/trials/${trial.id}/code.svg`}
              alt={`Code that says ${trial.address}`}
              className="size-40 border border-line bg-white"
            />
            <figcaption className="caption mt-1">Scan it with a phone.</figcaption>
          </figure>
          <div>
            <p className="font-mono text-xs break-all">{trial.address}</p>
            <CopyButton text={trial.address} label="Copy" className="button-plain -ml-1.5" />
            <p className="caption">
              For a test mail or a message. It works until {format(new Date(trial.endsAt), 'HH:mm')} and is in no
              figure.
            </p>
          </div>
          {trial.otherOpenings > 0 && (
            <p className="caption">
              Opened {counted(trial.otherOpenings, 'time')} by scanners and other programs, which spoils nothing.
            </p>
          )}
        </div>
      )}
    </section>
  );
}
