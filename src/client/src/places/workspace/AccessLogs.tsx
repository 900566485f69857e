import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { dayOf } from '../../parts/days';
import { FileInput } from '../../parts/FileInput';
import { FormField } from '../../parts/FormField';
import { ago, count, exact } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { Select } from '../../parts/Select';
import { accessLogCancel, accessLogsQuery, accessLogUpload, sitesQuery } from './queries';

type Log = Schema['AccessLogAnswer'];

/** Why lines are left out. */
const reasons: Record<string, string> = {
  asset: 'pictures, styles, scripts and other files',
  crawler: 'crawlers and other programs',
  unsuccessful: 'not answered with a page',
  otherMethod: 'that viewed no page',
  unreadable: 'not in the combined format',
  otherHost: 'for another host',
  tooOld: 'older than single visits are kept',
  inFuture: 'dated in the future',
  measuredAlready: 'on days the pages measured themselves',
  alreadyRead: 'read before',
};

const faults: Record<NonNullable<Log['fault']>, string> = {
  notCombined: 'No line is in the combined format. Set the server’s log to “combined”, or choose another file.',
  brokenArchive: 'The packed file is broken or cut off. Pack it again and send it once more; what was read is skipped.',
  tooLongUnpacked: 'It unpacks to more than 16 GB. Send the rest in parts; what was read is skipped.',
  fileGone: 'The file is gone from the server. Send it again; what was read is skipped.',
  siteGone: 'Its site was removed.',
};

/** Access logs of the sites' servers: page views for sites without the script, and for the time before it. */
export function AccessLogs() {
  const builder = usePerson().role !== 'viewer';
  const sites = useQuery(sitesQuery());
  const [chosen, setChosen] = useState<string | null>(null);
  const [leavesOut, setLeavesOut] = useState(true);
  const logs = useQuery({
    ...accessLogsQuery(),
    refetchInterval: (query) => (query.state.data?.some((log) => log.state === 'reading') ? 1_000 : false),
  });
  const upload = useMutation(accessLogUpload());
  const site = chosen ?? sites.data?.[0]?.id ?? '';
  return (
    <section aria-label="Access logs" className="flex flex-col gap-3">
      <h2 className="font-medium">Access logs</h2>
      <p className="text-quiet">
        Turn a web server’s log into visits: for a site without the script, or for the time before it. Takes the
        combined format, plain or as .gz, up to 1 GB. Each line counts once, however often you send it.{' '}
        <a className="text-accent underline" href="/api/v1/samples/access.log" download>
          Download a sample log
        </a>
      </p>
      {builder && (
        <div className="flex flex-wrap items-end gap-3">
          <FormField label="Site">
            <Select
              value={site}
              onChange={setChosen}
              options={(sites.data ?? []).map((s) => [s.id, s.name] as const)}
              className="w-56"
            />
          </FormField>
          <FileInput
            label="Access log"
            accept=".log,.txt,.gz"
            says="Choose a log …"
            pending={upload.isPending || !site}
            onFile={(file) => upload.mutate({ file, site, leavesOut })}
          />
          <label className="flex h-8 items-center gap-2">
            <input type="checkbox" checked={leavesOut} onChange={(e) => setLeavesOut(e.target.checked)} />
            Leave out days the pages measured themselves
          </label>
        </div>
      )}
      {upload.isError && (
        <p role="alert" className="text-error">
          {upload.error.message}
        </p>
      )}
      <ul className="flex flex-col" aria-label="Logs">
        {logs.data?.map((log) => (
          <LogRow key={log.id} log={log} mayCancel={builder} />
        ))}
      </ul>
    </section>
  );
}

function LogRow({ log, mayCancel }: { log: Log; mayCancel: boolean }) {
  const cancel = useMutation(accessLogCancel());
  const skipped = Object.entries(log.skipped).sort(([, a], [, b]) => b - a);
  return (
    <li className="flex flex-col gap-1 border-b border-line py-2">
      <div className="flex items-center gap-4">
        <span className="min-w-0 flex-1 truncate">
          <span className="font-mono">{log.fileName}</span> <span className="text-quiet">for {log.site}</span>
        </span>
        {log.state === 'reading' && (
          <progress className="h-2 w-40" aria-label={`Reading ${log.fileName}`} max={1} value={log.done} />
        )}
        {log.state === 'cancelled' && <span className="text-quiet">cancelled</span>}
        <span className="text-quiet">
          by {log.addedBy}, <span title={exact(log.addedAt)}>{ago(log.addedAt)}</span>
        </span>
        {log.state === 'reading' && mayCancel && (
          <button
            type="button"
            className="button-plain"
            aria-label={`Cancel ${log.fileName}`}
            disabled={cancel.isPending}
            onClick={() => cancel.mutate(log.id)}
          >
            Cancel
          </button>
        )}
      </div>
      {log.fault && <p className="text-error">{faults[log.fault]}</p>}
      <p>
        {count(log.read)} {log.read === 1 ? 'line' : 'lines'} read, {count(log.kept)} page{' '}
        {log.kept === 1 ? 'view' : 'views'} kept
        {log.firstDay &&
          log.lastDay &&
          (log.firstDay === log.lastDay
            ? ` on ${dayOf(log.firstDay)}`
            : ` from ${dayOf(log.firstDay)} to ${dayOf(log.lastDay)}`)}
        .
      </p>
      {skipped.length > 0 && (
        <p className="text-quiet">
          Left out: {skipped.map(([why, lines]) => `${count(lines)} ${reasons[why] ?? why}`).join(' · ')}
        </p>
      )}
    </li>
  );
}
