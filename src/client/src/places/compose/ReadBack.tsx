import type { Schema } from '../../api/client';
import { count } from '../../parts/format';
import { LinkStrip } from '../../parts/LinkStrip';
import { NoticeList } from '../../parts/NoticeList';

/** A pasted URL with what was read from it. */
export interface PastedLink {
  given: string;
  read: Schema['InspectAnswer'];
}

interface ReadBackProps {
  links: PastedLink[];
  onTake: (links: PastedLink[]) => void;
  onLeave: (link: PastedLink) => void;
  onLeaveAll: () => void;
}

/** Pasted links, each with the repaired version beside it; nothing is taken over before it was seen. */
export function ReadBack({ links, onTake, onLeave, onLeaveAll }: ReadBackProps) {
  const usable = links.filter((l) => l.read.destination !== null);
  const faulty = links.filter((l) => l.read.notices.some((n) => n.severity !== 'info'));
  return (
    <section aria-label="Links read back" className="flex min-h-0 min-w-0 flex-1 flex-col bg-sheet">
      <div className="flex items-center gap-3 border-b border-line px-5 py-2">
        <p className="min-w-0 flex-1">
          {count(links.length)} {links.length === 1 ? 'link' : 'links'} read back · {count(faulty.length)} with
          something to repair
        </p>
        <button type="button" className="button" onClick={onLeaveAll}>
          Discard {links.length === 1 ? 'it' : 'all'}
        </button>
        <button
          type="button"
          className="button-main"
          autoFocus
          disabled={usable.length === 0}
          onClick={() => onTake(usable)}
        >
          Use {usable.length === 1 ? 'the repaired link' : `all ${count(usable.length)} repaired links`}
        </button>
      </div>
      <ul className="min-h-0 flex-1 overflow-auto">
        {links.map((link) => (
          <li key={link.given} className="grid grid-cols-2 gap-6 border-b border-line px-5 py-3">
            <div className="min-w-0">
              <div className="caption mb-1">as it was</div>
              <div className="font-mono text-xs break-all">{link.given}</div>
              {link.read.notices.length > 0 && (
                <div className="mt-2">
                  <NoticeList notices={link.read.notices} />
                </div>
              )}
            </div>
            <div className="min-w-0">
              <div className="caption mb-1">repaired</div>
              {link.read.mendedUrl ? (
                <>
                  <LinkStrip segments={link.read.strip} fields={link.read.fields} />
                  <div className="mt-1 font-mono text-xs break-all text-quiet">{link.read.mendedUrl}</div>
                  <span className="mt-1 -ml-1.5 flex gap-2">
                    <button type="button" className="button-plain" onClick={() => onTake([link])}>
                      Use it
                    </button>
                    <button type="button" className="button-plain" onClick={() => onLeave(link)}>
                      Discard
                    </button>
                  </span>
                </>
              ) : (
                <span className="text-quiet">This can’t be repaired; see the reason on the left.</span>
              )}
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}
