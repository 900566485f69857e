import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { ago, count, exact } from '../../parts/format';
import { InspectorPart } from '../../parts/Inspector';
import { SeverityMark } from '../../parts/SeverityMark';
import { usePerson } from '../../parts/person';
import { RedirectRuleEditor } from './RedirectRuleEditor';
import { carrySays, changesOf, turnSays } from './routeChanges';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';
import { DateTimeField } from '../../parts/DateField';
import { linkRouteQuery, linkRouteChange } from './queries';

type Route = Schema['RouteAnswer'];

const states: Record<string, string> = {
  live: 'works',
  paused: 'paused: it opens no page for now',
  ended: 'has ended',
  waiting: 'waiting for an owner to approve the host',
};

/** Where a link's short links lead: another page, a pause, an end, with every change that was made. */
export function LinkRoute({ linkId }: { linkId: string }) {
  const person = usePerson();
  const route = useQuery({ ...linkRouteQuery(linkId), retry: false });
  const [editing, setEditing] = useState(false);
  if (!route.data) return null;
  const r = route.data;
  return (
    <InspectorPart title="Destination of the short links">
      {editing ? (
        <RouteForm key={r.revision} linkId={linkId} route={r} onDone={() => setEditing(false)} />
      ) : (
        <>
          <p className="font-mono text-xs break-all">{r.leadsTo}</p>
          <p className="mt-1">
            {states[r.state]}
            {r.endsAt && r.state !== 'ended' && <>; ends {exact(r.endsAt)}</>}
            {r.mostUses && r.state !== 'ended' && (
              <>
                ; ends after {count(r.mostUses)} uses, {count(r.usesLeft ?? 0)} of them left
              </>
            )}
            {(r.endsAt || r.mostUses) && r.fallback && (
              <>
                , then opens <span className="font-mono text-xs break-all">{r.fallback}</span>
              </>
            )}
          </p>
          <ul className="mt-1 flex flex-col gap-0.5 text-xs">
            {r.turns.map((turn) => (
              <li key={turnSays(turn)} className="break-all">
                {turnSays(turn)}
              </li>
            ))}
            {r.permanent && <li>redirects permanently (301); browsers remember it</li>}
            {r.withoutTags && <li>sends no tags</li>}
            {r.clickIds && <li>gives each click an id</li>}
            {r.carries !== 'nothing' && <li>{carrySays[r.carries]}</li>}
          </ul>
          {person.role !== 'viewer' && (
            <button type="button" className="button mt-2" onClick={() => setEditing(true)}>
              Change destination
            </button>
          )}
        </>
      )}
      {r.history.length > 0 && (
        <ol className="mt-3 flex flex-col gap-1.5 text-xs" aria-label="Changes">
          {r.history.map((entry) => (
            <li key={entry.at} className="border-l-2 border-line-strong pl-2">
              {changesOf(entry.before, entry.after).map((says) => (
                <span key={says} className="block break-words">
                  {says}
                </span>
              ))}
              <span className="text-quiet" title={exact(entry.at)}>
                {entry.who}, {ago(entry.at)}
              </span>
            </li>
          ))}
        </ol>
      )}
    </InspectorPart>
  );
}

function RouteForm({ linkId, route, onDone }: { linkId: string; route: Route; onDone: () => void }) {
  const queries = useQueryClient();
  const [leadsTo, setLeadsTo] = useState(route.leadsTo);
  const [paused, setPaused] = useState(route.paused);
  const [endsAt, setEndsAt] = useState(route.endsAtLocal ?? '');
  const [fallback, setFallback] = useState(route.fallback ?? '');
  const [mostUses, setMostUses] = useState(route.mostUses?.toString() ?? '');
  const [turns, setTurns] = useState(route.turns);
  const [permanent, setPermanent] = useState(route.permanent);
  const [withoutTags, setWithoutTags] = useState(route.withoutTags);
  const [carries, setCarries] = useState(route.carries);
  const [clickIds, setClickIds] = useState(route.clickIds);
  const change = useMutation({
    ...linkRouteChange(linkId),
    onSuccess: (next) => {
      queries.setQueryData(linkRouteQuery(linkId).queryKey, next);
      onDone();
    },
    onError: () => queries.invalidateQueries({ queryKey: linkRouteQuery(linkId).queryKey }),
  });
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        change.mutate({
          leadsTo,
          paused,
          endsAt: endsAt || null,
          fallback: fallback || null,
          mostUses: mostUses ? Number(mostUses) : null,
          turns,
          permanent,
          withoutTags,
          carries,
          clickIds,
          revision: route.revision,
        });
      }}
    >
      <FormField label="Destination page; the link’s tags are added">
        <input className="input font-mono text-xs" value={leadsTo} onChange={(e) => setLeadsTo(e.target.value)} />
      </FormField>
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={paused} onChange={(e) => setPaused(e.target.checked)} /> paused
      </label>
      <FormField label={`Ends at (${route.timeZone}); empty = never`}>
        <DateTimeField label="Ends at" value={endsAt} onChange={setEndsAt} />
      </FormField>
      <FormField label="Ends after this many clicks and scans; empty = never">
        <input type="number" min={1} className="input" value={mostUses} onChange={(e) => setMostUses(e.target.value)} />
      </FormField>
      {(endsAt || mostUses) && (
        <FormField label="Destination after the end; empty = a page saying that the link has ended">
          <input
            className="input font-mono text-xs"
            value={fallback}
            onChange={(e) => setFallback(e.target.value)}
            placeholder="https://"
          />
        </FormField>
      )}
      <RedirectRuleEditor turns={turns} onChange={setTurns} />
      <FormField label="Parameters behind the short link">
        <Select
          value={carries}
          onChange={(value) => setCarries(value)}
          options={[
            ['nothing', 'are dropped'],
            ['keepTags', 'are added; existing ones stay'],
            ['overwrite', 'are added and replace existing ones'],
          ]}
        />
      </FormField>
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={withoutTags} onChange={(e) => setWithoutTags(e.target.checked)} /> send no tags
        to the page
      </label>
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={clickIds} onChange={(e) => setClickIds(e.target.checked)} /> give each click an
        id
      </label>
      {clickIds && (
        <p className="caption">
          Put @&#123;click.id&#125; into a parameter of the page, such as{' '}
          <code className="whitespace-nowrap">?ref=@&#123;click.id&#125;</code>. A shop’s server that reports an order
          with this id within 90 days finds the click. The id is random and says nothing about the person.
        </p>
      )}
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={permanent} onChange={(e) => setPermanent(e.target.checked)} /> permanent
        redirect (301)
      </label>
      {permanent && (
        <p className="flex gap-2 text-xs">
          <SeverityMark severity="warning" size={12} />
          Browsers remember it: later clicks by the same person are not counted and don’t see a changed destination.
        </p>
      )}
      <p className="caption">
        In the page’s parameters, @&#123;click.country&#125;, @&#123;click.device&#125;, @&#123;click.date&#125;,
        @&#123;click.slug&#125; and @&#123;click.referrer&#125; are filled in at each click.
      </p>
      {change.isError && (
        <p role="alert" className="text-error">
          {change.error.message}
        </p>
      )}
      <div className="flex gap-2">
        <button type="submit" className="button-main" disabled={change.isPending}>
          Change
        </button>
        <button type="button" className="button" onClick={onDone}>
          Cancel
        </button>
      </div>
    </form>
  );
}
