import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { ArrowLeft, Download, Send } from 'lucide-react';
import { useState } from 'react';
import { NewCampaign } from '../../plan/NewCampaign';
import { type Schema } from '../../../api/client';
import { useCampaigns, useFields, usePlacements } from '../../../api/known';
import { ago, count } from '../../../parts/format';
import { Head } from '../../../parts/Head';
import { PartTabs } from '../../../parts/PartTabs';
import { usePerson } from '../../../parts/person';
import { MailLinkTable } from './MailLinkTable';
import { MailTrial } from './MailTrial';
import { NotThere } from '../NotThere';
import { Select } from '../../../parts/Select';
import { FormField } from '../../../parts/FormField';
import { mailQuery, mailChoose, mailMake, mailSend } from './queries';

type Mail = Schema['MailAnswer'];

const shown = [
  ['links', 'Links'],
  ['both', 'Both'],
  ['mail', 'Before and after'],
  ['trial', 'Trial'],
] as const;

// Names have no white space at their ends.
const newCampaign = ' new';

type Choices = Schema['MailChoices'];

/** What is chosen anew of a mail as it is by then. */
type Change = (mail: Mail) => Partial<Choices>;

const typedOf = (m: Mail): Choices['typed'] =>
  Object.fromEntries(m.links.filter((l) => l.typed).map((l) => [String(l.number), l.content]));
const skippedOf = (m: Mail): number[] => m.links.filter((l) => l.skipped).map((l) => l.number);

const changed = (m: Mail, change: Change): Choices => ({
  placement: m.placement,
  campaign: m.campaign,
  contentBy: m.contentBy,
  shorten: m.shorten,
  typed: typedOf(m),
  skipped: skippedOf(m),
  revision: m.revision,
  ...change(m),
});

/** One HTML mail: what its links get, before and after side by side, and the way out. */
export function MailView({ id, onLeave }: { id: string; onLeave: () => void }) {
  const person = usePerson();
  const queries = useQueryClient();
  const [message, setMessage] = useState('');
  const [naming, setNaming] = useState(false);
  const [sent, setSent] = useState<string | null>(null);
  const [show, setShow] = useState<(typeof shown)[number][0]>('both');
  const mayWrite = person.role !== 'viewer';
  const mail = useQuery(mailQuery(id));
  const fields = useFields();
  const placements = usePlacements();
  const campaigns = useCampaigns();

  const keep = (next: Mail) => queries.setQueryData(mailQuery(id).queryKey, next);
  const failed = (error: Error) => {
    setMessage(error.message);
    void queries.invalidateQueries({ queryKey: mailQuery(id).queryKey });
  };
  const choose = useMutation({
    mutationFn: (change: Change) => mailChoose(id, changed(queries.getQueryData(mailQuery(id).queryKey)!, change)),
    // One after the other, each on top of what the one before came to: who is quick loses nothing.
    scope: { id: `mail ${id}` },
    onSuccess: (next) => {
      keep(next);
      setMessage('');
    },
    onError: failed,
  });
  const change = (what: Partial<Choices>) => choose.mutate(() => what);
  const make = useMutation({
    ...mailMake(id),
    onSuccess: (next) => {
      keep(next);
      setMessage(`${count(next.ready)} ${next.ready === 1 ? 'link is' : 'links are'} written into the mail.`);
    },
    onError: failed,
  });
  const send = useMutation({
    ...mailSend(id),
    onSuccess: (done) => {
      setSent(done.inbox);
      setMessage('');
    },
    onError: failed,
  });

  if (mail.isError) return <NotThere error={mail.error} back="All mails" onBack={onLeave} />;
  if (!mail.data) return <Head title="Batches" />;
  const m = mail.data;
  const labels = Object.fromEntries((fields.data ?? []).map((f) => [f.key, f.label]));
  const tagged = m.links.filter((l) => !l.skipped && (l.fate === 'tag' || l.fate === 'mend'));
  const stopped = tagged.filter((l) => !l.ready).length;
  const isWritten = m.madeAt != null;

  return (
    <>
      <Head
        title={m.subject ?? m.name}
        state={
          <>
            {count(m.links.length)} links · {count(m.ready)} ready
            {stopped > 0 && ` · ${count(stopped)} stopped`} · {count(m.links.length - tagged.length)} stay
            {m.madeAt && ` · written ${ago(m.madeAt)} by ${m.madeBy}`}
          </>
        }
      >
        <button type="button" className="button" onClick={onLeave}>
          <ArrowLeft size={14} strokeWidth={1.5} /> All mails
        </button>
        {isWritten && (
          <a className="button" href={`/api/v1/mails/${id}/result`} download>
            <Download size={14} strokeWidth={1.5} /> Download
          </a>
        )}
        {isWritten && m.inbox && mayWrite && (
          <button type="button" className="button" disabled={send.isPending} onClick={() => send.mutate()}>
            <Send size={14} strokeWidth={1.5} /> Send a test mail
          </button>
        )}
        {mayWrite && (
          <button
            type="button"
            className="button-main"
            disabled={m.ready === 0 || make.isPending}
            onClick={() => make.mutate()}
          >
            {make.isPending ? 'Writing …' : `Write ${count(m.ready)} ${m.ready === 1 ? 'link' : 'links'}`}
          </button>
        )}
      </Head>
      <div className="flex shrink-0 flex-wrap items-end gap-3 border-b border-line px-5 py-3">
        <FormField label="Placement" className="w-56">
          <Select
            value={m.placement ?? ''}
            disabled={!mayWrite}
            onChange={(value) => change({ placement: value || null })}
            options={[['', 'none'], ...(placements.data?.map((p) => [p.name, p.name] as const) ?? [])]}
          />
        </FormField>
        <FormField label="Campaign" className="w-56">
          <Select
            value={m.campaign ?? ''}
            disabled={!mayWrite}
            onChange={(value) => (value === newCampaign ? setNaming(true) : change({ campaign: value || null }))}
            options={[
              ['', 'none'],
              ...(campaigns.data?.map((c) => [c.name, c.name] as const) ?? []),
              [newCampaign, 'New campaign …'],
            ]}
          />
        </FormField>
        {naming && (
          <NewCampaign
            onClose={() => setNaming(false)}
            onMade={(made) => {
              setNaming(false);
              change({ campaign: made.name });
            }}
          />
        )}
        <FormField label="Content value" className="w-64">
          <Select
            value={m.contentBy}
            disabled={!mayWrite}
            onChange={(value) => change({ contentBy: value, typed: {} })}
            options={[
              ['position', 'position, such as header button'],
              ['numberAndText', 'number and text, such as 2 read more'],
              ['nothing', 'none'],
            ]}
          />
        </FormField>
        <label className="flex h-8 items-center gap-1.5 text-xs">
          <input
            type="checkbox"
            disabled={!mayWrite}
            checked={m.shorten}
            onChange={(e) => change({ shorten: e.target.checked })}
          />
          short links
        </label>
        <span className="flex-1" />
        <PartTabs label="View" parts={shown} at={show} onGo={setShow} />
        <p role="status" className="basis-full text-quiet empty:hidden">
          {message}
          {sent && (
            <>
              The test mail has arrived in the inbox:{' '}
              <a className="button-plain" href={sent} target="_blank" rel="noreferrer">
                Open inbox
              </a>
            </>
          )}
        </p>
      </div>
      <div className="flex min-h-0 flex-1 flex-col">
        {show === 'trial' && <MailTrial id={id} isWritten={isWritten} mayWrite={mayWrite} />}
        {(show === 'links' || show === 'both') && (
          <div className="min-h-0 flex-1 overflow-auto bg-sheet">
            <MailLinkTable
              links={m.links}
              labels={labels}
              mayWrite={mayWrite}
              onContent={(number, content) =>
                choose.mutate((m) => ({ typed: { ...typedOf(m), [String(number)]: content ?? '' } }))
              }
              onSkip={(number, skip) =>
                choose.mutate((m) => ({
                  skipped: [...skippedOf(m).filter((n) => n !== number), ...(skip ? [number] : [])],
                }))
              }
            />
          </div>
        )}
        {(show === 'both' || show === 'mail') && (
          <div
            className={`grid grid-cols-2 border-t border-line-strong ${show === 'both' ? 'h-64 shrink-0' : 'min-h-0 flex-1'}`}
          >
            {(['before', 'after'] as const).map((when) => (
              <figure key={when} className="flex min-h-0 flex-col border-r border-line last:border-r-0">
                <figcaption className="caption px-5 py-1">
                  {when === 'before' ? 'Original' : isWritten ? 'Tagged' : 'Tagged (preview)'}
                </figcaption>
                <iframe
                  title={when === 'before' ? 'Original mail' : 'Tagged mail'}
                  sandbox=""
                  className="min-h-0 flex-1 bg-white"
                  src={`/api/v1/mails/${id}/${when}?revision=${m.revision}`}
                />
              </figure>
            ))}
          </div>
        )}
      </div>
    </>
  );
}
