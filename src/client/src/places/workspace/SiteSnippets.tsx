import { useState } from 'react';
import { type Schema } from '../../api/client';
import { CopyButton } from '../../parts/CopyButton';

const order = `<script type="application/json" data-beacon="order">
  {"id": "A-1001", "value": 37, "currency": "EUR",
   "items": [{"name": "Ticket", "category": "evening", "count": 2, "value": 18.5}]}
</script>`;
const event = `<button onclick="beacon.event('film-played')">Play the film</button>`;

const source = `const from = await beacon.source();
// such as {"utm_source": "skeinly", "utm_campaign": "bulb_sale"}`;
const serverCall = (host: string) => `curl ${window.location.origin}/api/v1/conversions \\
  -H "Authorization: Bearer KEY" -H "Content-Type: application/json" \\
  -d '{"eventId": "e-1001", "site": "${host}", "orderId": "A-1001",
       "value": {"amount": "37.00", "currency": "EUR"}}'`;

/** What the pages of a site need, to be copied. */
export function SiteSnippets({ site }: { site: Schema['MeasuredSiteAnswer'] }) {
  const [pinned, setPinned] = useState(false);
  return (
    <div className="flex flex-col gap-3">
      <Snippet
        title="Into the head of every page"
        text={pinned ? site.pinnedSnippet : site.snippet}
        hint={
          pinned
            ? 'The page names the script’s hash, so a browser runs this version and nothing else.'
            : 'Pages go on getting the newest script.'
        }
      />
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={pinned} onChange={(e) => setPinned(e.target.checked)} />
        Keep to this version of the script
      </label>
      <Snippet
        title="On the page after an order"
        text={order}
        hint="An order counts once, however often the page is loaded. Fill it with your shop’s own values."
      />
      <Snippet
        title="When something happens on a page"
        text={event}
        hint="Choose a name for the event; Arrivals counts the events of each visit."
      />
      {site.sourceFields.length > 0 && (
        <Snippet
          title="When a page wants to know where its visitor came from"
          text={source}
          hint="Read from the page’s own address. On later pages it is known only where ids are kept. Anybody can write such an address: show it as text only."
        />
      )}
      <Snippet
        title="Where no script runs"
        text={site.pictureSnippet}
        hint="Your server writes the page’s own address, percent-encoded, in place of PAGE-ADDRESS. Without it, such visits have no tags."
      />
      <Snippet
        title="From the shop’s server"
        text={serverCall(site.hosts[0] ?? site.name)}
        hint="Make a measuring key under Keys. What the server says of an order goes before what its page said."
      />
    </div>
  );
}

function Snippet({ title, text, hint }: { title: string; text: string; hint: string }) {
  return (
    <figure className="flex flex-col gap-1">
      <figcaption className="flex items-baseline gap-3">
        <span className="caption">{title}</span>
        <span className="ml-auto">
          <CopyButton text={text} label="Copy" />
        </span>
      </figcaption>
      <pre className="rounded border border-line bg-page p-3 font-mono text-xs break-all whitespace-pre-wrap">
        {text}
      </pre>
      <span className="caption">{hint}</span>
    </figure>
  );
}
