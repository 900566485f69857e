import type { ReactNode } from 'react';
import type { Notice } from '../api/client';
import { SeverityMark } from './SeverityMark';

interface NoticeListProps {
  notices: Notice[];
  onRepair?: (notice: Notice) => void;
  onRepairAll?: (notice: Notice) => void;
  /** How many links have the same notice with the same repair. */
  alike?: (notice: Notice) => number;
  /** What the button for all of them says, where their number is not known. */
  allSays?: string;
  /** Another way out of a notice: what leads there, or nothing. */
  wayOut?: (notice: Notice) => ReactNode;
}

/** Notices with their way out: one sentence each and, where there is a repair, the button that does it. */
export function NoticeList({ notices, onRepair, onRepairAll, alike, allSays, wayOut }: NoticeListProps) {
  return (
    <ul className="flex flex-col gap-2">
      {notices.map((notice, i) => {
        const same = alike?.(notice) ?? 1;
        return (
          <li key={i} className="flex gap-2">
            <span className="mt-0.5">
              <SeverityMark severity={notice.severity} />
            </span>
            <span className="min-w-0">
              <span className="break-words">{notice.message}</span>
              {notice.repair && onRepair && (
                <span className="mt-0.5 flex flex-wrap gap-2">
                  <button type="button" className="button-plain -ml-1.5" onClick={() => onRepair(notice)}>
                    {notice.repair.says}
                  </button>
                  {same > 1 && onRepairAll && (
                    <button type="button" className="button-plain" onClick={() => onRepairAll(notice)}>
                      {allSays ?? `Repair all ${same} like this`}
                    </button>
                  )}
                </span>
              )}
              {wayOut && <span className="block empty:hidden">{wayOut(notice)}</span>}
            </span>
          </li>
        );
      })}
    </ul>
  );
}
