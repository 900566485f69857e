import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, dataOf, type Schema } from '../../api/client';
import { ago, exact } from '../../parts/format';
import { InspectorPart } from '../../parts/Inspector';
import { usePerson } from '../../parts/person';
import { changesOf } from './routeChanges';

type Route = Schema['RouteAnswer'];

const states: Record<string, string> = {
  live: 'works',
  paused: 'paused: it leads nowhere for the time being',
  ended: 'has ended',
  waiting: 'waits for an owner to approve the host',
};

/** Where a link's short links lead: another page, a pause, an end, with every change that was made. */
export function LinkRoute({ linkId }: { linkId: string }) {
  const person = usePerson();
  const route = useQuery({
    queryKey: ['link-route', linkId],
    queryFn: async () => dataOf(await api.GET('/api/v1/links/{id}/route', { params: { path: { id: linkId } } })),
    retry: false,
  });
  const [editing, setEditing] = useState(false);
  if (!route.data) return null;
  const r = route.data;
  return (
    <InspectorPart title="Where the short links lead">
      {editing ? (
        <RouteForm key={r.revision} linkId={linkId} route={r} onDone={() => setEditing(false)} />
      ) : (
        <>
          <p className="font-mono text-xs break-all">{r.leadsTo}</p>
          <p className="mt-1">
            {states[r.state]}
            {r.endsAt && r.state !== 'ended' && <>; ends {exact(r.endsAt)}</>}
            {r.endsAt && r.fallback && (
              <>
                , then leads to <span className="font-mono text-xs break-all">{r.fallback}</span>
              </>
            )}
          </p>
          {person.role !== 'Viewer' && (
            <button type="button" className="button mt-2" onClick={() => setEditing(true)}>
              Change where they lead
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
  const change = useMutation({
    mutationFn: async () =>
      dataOf(
        await api.PUT('/api/v1/links/{id}/route', {
          params: { path: { id: linkId } },
          body: { leadsTo, paused, endsAt: endsAt || null, fallback: fallback || null, revision: route.revision },
        }),
      ),
    onSuccess: (next) => {
      queries.setQueryData(['link-route', linkId], next);
      onDone();
    },
    onError: () => queries.invalidateQueries({ queryKey: ['link-route', linkId] }),
  });
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        change.mutate();
      }}
    >
      <label className="flex flex-col gap-1">
        <span className="caption">Page; it gets the link’s own tags</span>
        <input className="input font-mono text-xs" value={leadsTo} onChange={(e) => setLeadsTo(e.target.value)} />
      </label>
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={paused} onChange={(e) => setPaused(e.target.checked)} /> paused
      </label>
      <label className="flex flex-col gap-1">
        <span className="caption">Ends at ({route.timeZone}); empty for never</span>
        <input type="datetime-local" className="input" value={endsAt} onChange={(e) => setEndsAt(e.target.value)} />
      </label>
      {endsAt && (
        <label className="flex flex-col gap-1">
          <span className="caption">After its end it leads to; empty for a plain page that says so</span>
          <input
            className="input font-mono text-xs"
            value={fallback}
            onChange={(e) => setFallback(e.target.value)}
            placeholder="https://"
          />
        </label>
      )}
      {change.isError && (
        <p role="alert" className="text-stop">
          {change.error.message}
        </p>
      )}
      <div className="flex gap-2">
        <button type="submit" className="button-main" disabled={change.isPending}>
          Change
        </button>
        <button type="button" className="button" onClick={onDone}>
          Leave it
        </button>
      </div>
    </form>
  );
}
