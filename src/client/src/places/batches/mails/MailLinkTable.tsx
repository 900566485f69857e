import type { Schema } from '../../../api/client';
import { LinkStrip } from '../../../parts/LinkStrip';
import { SeverityMark, gravest } from '../../../parts/SeverityMark';

type MailLink = Schema['MailLinkAnswer'];

interface MailLinkTableProps {
  links: MailLink[];
  labels: Record<string, string>;
  mayWrite: boolean;
  onContent: (number: number, content: string | null) => void;
  onSkip: (number: number, skip: boolean) => void;
}

const places: Record<MailLink['place'], string> = { header: 'header', body: 'body', footer: 'footer' };
const shapes: Record<MailLink['shape'], string> = { link: 'link', button: 'button', picture: 'picture' };

/** Each link of a mail and whether it is tagged. */
export function MailLinkTable({ links, labels, mayWrite, onContent, onSkip }: MailLinkTableProps) {
  return (
    <table className="w-full table-fixed">
      <thead className="sticky top-0 z-10 bg-sheet">
        <tr className="h-[34px] border-b border-line text-left text-xs text-quiet">
          <th className="w-14 px-3 pl-5 text-right font-medium">Link</th>
          <th className="w-52 px-3 font-medium">Link text</th>
          <th className="w-28 px-3 font-medium">Where</th>
          <th className="w-48 px-3 font-medium">Content</th>
          <th className="px-3 font-medium">Result</th>
          <th className="w-16 px-3 font-medium">Tag it</th>
        </tr>
      </thead>
      <tbody>
        {links.map((link) => {
          const stays = link.fate === 'leave' || link.fate === 'right';
          const worst = gravest(link.notices);
          return (
            <tr key={link.number} className="h-[42px] border-b border-line">
              <td className="px-3 pl-5 text-right text-quiet tabular-nums">{link.number}</td>
              <td className="truncate px-3" title={link.href}>
                {link.text || <span className="text-quiet">{shapes[link.shape]}</span>}
              </td>
              <td className="px-3 text-quiet">
                {places[link.place]} {shapes[link.shape]}
              </td>
              <td className="px-3">
                {!stays && (
                  <input
                    key={`${link.content} ${link.typed}`}
                    className={`input h-7 w-full text-xs ${link.typed ? 'border-accent' : ''}`}
                    aria-label={`Content of link ${link.number}`}
                    readOnly={!mayWrite || link.skipped}
                    defaultValue={link.content}
                    onBlur={(e) => e.target.value !== link.content && onContent(link.number, e.target.value)}
                    onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
                  />
                )}
              </td>
              <td className="min-w-0 px-3">
                {stays || link.skipped ? (
                  <span className="block truncate text-quiet" title={link.href}>
                    unchanged: {link.skipped ? 'excluded by you' : link.why}
                  </span>
                ) : (
                  <span className="flex min-w-0 items-center gap-2">
                    <span title={link.notices[0]?.message ?? link.why ?? undefined}>
                      <SeverityMark severity={link.ready ? (worst === 'warning' ? 'warning' : 'good') : 'error'} />
                    </span>
                    <span className="min-w-0 flex-1 overflow-hidden">
                      {link.strip.length ? (
                        <LinkStrip segments={link.strip} labels={labels} notices={link.notices} />
                      ) : (
                        <span className="block truncate text-quiet">{link.notices[0]?.message}</span>
                      )}
                    </span>
                  </span>
                )}
              </td>
              <td className="px-3 text-center">
                {!stays && (
                  <input
                    type="checkbox"
                    aria-label={`Tag link ${link.number}`}
                    disabled={!mayWrite}
                    checked={!link.skipped}
                    onChange={(e) => onSkip(link.number, !e.target.checked)}
                  />
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
