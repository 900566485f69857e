import { useQuery } from '@tanstack/react-query';
import { count } from '../../parts/format';
import { linkGroupsQuery, type LedgerQuestion } from './queries';

interface GroupTableProps {
  by: string;
  /** What narrows the links down. */
  asked: LedgerQuestion;
  /** Shows the links of a group. */
  onOpen: (key: string) => void;
}

/** The links the search finds, grouped; a group is opened by narrowing the Ledger down to it. */
export function GroupTable({ by, asked, onOpen }: GroupTableProps) {
  const groups = useQuery(linkGroupsQuery(asked, by));
  const most = Math.max(1, ...(groups.data ?? []).map((g) => g.links));
  if (groups.isError) return <p className="p-5 text-error">{groups.error.message}</p>;
  if (groups.data?.length === 0)
    return <p className="p-8 text-center text-quiet">None of the found links belongs to such a group.</p>;
  return (
    <table className="w-full border-separate border-spacing-0 tabular-nums">
      <thead className="sticky top-0 z-10 bg-sheet text-left text-xs text-quiet">
        <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-2 [&>th]:py-2 [&>th]:font-medium">
          <th scope="col" className="!pl-5">
            Group
          </th>
          <th scope="col" className="w-72" />
          <th scope="col" className="text-right">
            Links
          </th>
          <th scope="col" className="!pr-5 text-right" title="Clicks and scans together">
            Uses
          </th>
        </tr>
      </thead>
      <tbody>
        {groups.data?.map((group) => (
          <tr key={group.key ?? ''} className="h-[34px] [&>td]:border-b [&>td]:border-line [&>td]:px-2">
            <td className="!pl-5">
              {group.key ? (
                <button type="button" className="text-left hover:text-accent" onClick={() => onOpen(group.key!)}>
                  {group.name}
                </button>
              ) : (
                <span className="text-quiet">{group.name}</span>
              )}
            </td>
            <td>
              <span
                className="block h-1.5 bg-accent opacity-60"
                style={{ width: `${Math.max(1, (100 * group.links) / most)}%` }}
              />
            </td>
            <td className="text-right">{count(group.links)}</td>
            <td className="!pr-5 text-right">{count(group.uses)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
