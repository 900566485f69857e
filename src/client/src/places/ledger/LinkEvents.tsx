import { useQuery } from '@tanstack/react-query';
import { ago, exact } from '../../parts/format';
import { eventSays } from './linkEvents';
import { linkHistoryQuery } from './queries';

/** Everything that was done with a link, newest first: who, when, before and after. */
export function LinkEvents({ linkId }: { linkId: string }) {
  const events = useQuery(linkHistoryQuery(linkId));
  if (events.isError) return <p className="text-error">{events.error.message}</p>;
  return (
    <ol className="flex max-w-3xl flex-col" aria-label="History">
      {events.data?.map((event, i) => (
        <li key={`${event.at} ${i}`} className="flex gap-4 border-b border-line py-2">
          <span className="w-56 shrink-0 text-quiet">
            <span title={exact(event.at)}>{ago(event.at)}</span>, {event.who}
          </span>
          <span className="min-w-0">
            {eventSays(event).map((says) => (
              <span key={says} className="block break-words">
                {says}
              </span>
            ))}
            {event.together && <span className="caption">in bulk</span>}
          </span>
        </li>
      ))}
    </ol>
  );
}
