import { useMutation, useQuery } from '@tanstack/react-query';
import { format, parseISO } from 'date-fns';
import { useState, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Schema } from '../../api/client';
import { ago, count, counted, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { straysQuery, straysUndo } from './queries';
import { StrayInspector } from './StrayInspector';
import { arrived, idOf, kinds, type StrayGroup } from './strays';

const day = (date: string) => format(parseISO(date), 'd MMM');

/** Tags in the traffic that the convention does not know, grouped by what they probably mean. */
export function Strays({ tabs }: { tabs: ReactNode }) {
  const read = useQuery(straysQuery());
  const [search] = useSearchParams();
  const [chosen, choose] = useState<string | null>();
  const data = read.data;
  // A finding leads to the group of its stray, until another one is chosen.
  const led = search.get('at');
  const group = data?.groups.find((g) =>
    chosen === undefined ? led !== null && g.strays.some((s) => arrived(s) === led) : idOf(g) === chosen,
  );
  const at = group && idOf(group);
  const open = data?.groups.filter((g) => !g.isSettled) ?? [];
  const settled = data?.groups.filter((g) => g.isSettled) ?? [];
  return (
    <>
      <Head title="Strays" state={data && stateOf(data, open)}>
        {tabs}
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-auto bg-sheet">
          {read.isError && (
            <p role="alert" className="p-5 text-error">
              {read.error.message}
            </p>
          )}
          {read.isPending && <p className="p-5 text-quiet">Looking through what arrived …</p>}
          {data && open.length === 0 && (
            <p className="max-w-xl p-5">
              {settled.length > 0 || data.assigned.length > 0
                ? 'Everything that arrived in the last 90 days has its place.'
                : 'Every tag that arrived in the last 90 days is one the convention knows. What it does not know stands here, with what it probably means.'}
            </p>
          )}
          {open.length > 0 && <Groups label="Strays" groups={open} chosen={at} onChoose={choose} />}
          {data && data.moreGroups > 0 && (
            <p className="px-5 py-2 text-quiet">
              {counted(data.moreGroups, 'more group')} with fewer visits; they follow as these are assigned.
            </p>
          )}
          {settled.length > 0 && (
            <Part
              title="Counted right already"
              says="Another case or other separators. The reports know them; correct the links."
            >
              <Groups label="Counted right already" groups={settled} chosen={at} onChoose={choose} />
            </Part>
          )}
          {data && data.inside.length > 0 && (
            <Part
              title="Tags inside your own site"
              says="They begin no visit here. Other systems forget by them where the visit came from, so remove them from these pages."
            >
              <Inside links={data.inside} />
            </Part>
          )}
          {data && data.assigned.length > 0 && (
            <Part
              title="Assigned"
              says="Read like this in every report. Undo one, and the reports say what they said before."
            >
              <Assigned assigned={data.assigned} />
            </Part>
          )}
        </div>
        {group && <StrayInspector key={idOf(group)} group={group} onClose={() => choose(null)} />}
      </div>
    </>
  );
}

function stateOf(data: Schema['StraysAnswer'], open: StrayGroup[]): string {
  if (open.length === 0) return data.assigned.length > 0 ? `${count(data.assigned.length)} assigned` : '';
  const visits = open.reduce((sum, g) => sum + g.visits, 0);
  const groups = counted(open.length + data.moreGroups, 'group');
  return `90 days: ${groups} with ${counted(visits, 'visit')}${data.assigned.length > 0 ? `, ${count(data.assigned.length)} assigned` : ''}`;
}

function Part({ title, says, children }: { title: string; says: string; children: ReactNode }) {
  return (
    <section className="pt-6 last:pb-6">
      <h2 className="px-5 font-semibold">{title}</h2>
      <p className="max-w-2xl px-5 pb-2 text-quiet">{says}</p>
      {children}
    </section>
  );
}

interface GroupsProps {
  label: string;
  groups: StrayGroup[];
  chosen: string | undefined;
  onChoose: (id: string) => void;
}

function Groups({ label, groups, chosen, onChoose }: GroupsProps) {
  return (
    <table aria-label={label} className="w-full border-collapse">
      <thead>
        <tr className="border-b border-line text-left text-xs text-quiet">
          <th className="py-2 pr-4 pl-5 font-medium">Arrived</th>
          <th className="w-[26%] py-2 pr-4 font-medium">Probably</th>
          <th className="w-48 py-2 pr-4 font-medium max-lg:hidden">What is wrong</th>
          <th className="w-20 py-2 pr-4 text-right font-medium">Visits</th>
          <th className="w-32 py-2 pr-5 font-medium max-md:hidden">Seen</th>
        </tr>
      </thead>
      <tbody>
        {groups.map((g) => (
          <tr
            key={idOf(g)}
            aria-selected={idOf(g) === chosen}
            className="h-[34px] cursor-pointer border-b border-line hover:bg-accent-wash aria-selected:bg-accent-wash"
            onClick={() => onChoose(idOf(g))}
          >
            <td className="max-w-0 pr-4 pl-5">
              <button type="button" className="flex w-full items-baseline gap-2 text-left">
                <span className="truncate font-mono text-xs" title={g.strays.map(arrived).join('\n')}>
                  {g.strays.slice(0, 3).map(arrived).join(', ')}
                </span>
                {g.strays.length + g.moreStrays > 3 && (
                  <span className="caption shrink-0">and {count(g.strays.length + g.moreStrays - 3)} more</span>
                )}
              </button>
            </td>
            <td className="max-w-0 truncate pr-4" title={g.likely ?? undefined}>
              {g.likely ? (
                <>
                  <span className="font-mono text-xs">{g.likely}</span>
                  {g.fieldLabel && g.kind !== 'misspeltKey' && <span className="caption"> {g.fieldLabel}</span>}
                </>
              ) : (
                <span className="text-quiet">
                  nothing near{g.fieldLabel && <span className="caption"> {g.fieldLabel}</span>}
                </span>
              )}
            </td>
            <td className="truncate pr-4 text-quiet max-lg:hidden">{kinds[g.kind]}</td>
            <td className="pr-4 text-right tabular-nums">{count(g.visits)}</td>
            <td className="pr-5 whitespace-nowrap text-quiet max-md:hidden">
              {g.first === g.last ? day(g.first) : `${day(g.first)} – ${day(g.last)}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Inside({ links }: { links: Schema['InsideTag'][] }) {
  return (
    <table aria-label="Tags inside your own site" className="w-full border-collapse">
      <thead>
        <tr className="border-b border-line text-left text-xs text-quiet">
          <th className="w-[34%] py-2 pr-4 pl-5 font-medium">Stands on</th>
          <th className="py-2 pr-4 font-medium">Leads to, with</th>
          <th className="w-24 py-2 pr-4 text-right font-medium">Followed</th>
          <th className="w-32 py-2 pr-5 font-medium max-md:hidden">Seen</th>
        </tr>
      </thead>
      <tbody>
        {links.map((link) => (
          <tr
            key={`${link.standsOn} ${link.leadsTo} ${JSON.stringify(link.tags)}`}
            className="border-b border-line align-top"
          >
            <td className="max-w-0 truncate py-2 pr-4 pl-5 font-mono text-xs" title={link.standsOn}>
              {link.standsOn}
            </td>
            <td className="max-w-0 py-2 pr-4 font-mono text-xs">
              <span className="block truncate" title={link.leadsTo}>
                {link.leadsTo}
              </span>
              <span className="block break-words text-quiet">
                {Object.entries(link.tags)
                  .map(([key, value]) => `${key}=${value}`)
                  .join(' ')}
              </span>
            </td>
            <td className="py-2 pr-4 text-right tabular-nums">{count(link.times)}</td>
            <td className="py-2 pr-5 whitespace-nowrap text-quiet max-md:hidden">
              {link.first === link.last ? day(link.first) : `${day(link.first)} – ${day(link.last)}`}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Assigned({ assigned }: { assigned: Schema['AssignedStray'][] }) {
  const person = usePerson();
  const undo = useMutation(straysUndo());
  return (
    <>
      {undo.isError && (
        <p role="alert" className="px-5 pb-2 text-error">
          {undo.error.message}
        </p>
      )}
      <ul aria-label="Assigned" className="border-t border-line">
        {assigned.map((one) => (
          <li key={one.id} className="flex min-h-[34px] items-center gap-3 border-b border-line px-5">
            <span className="min-w-0 flex-1 truncate">
              <span className="font-mono text-xs">{one.stray}</span>
              <span className="text-quiet"> is read as </span>
              <span className="font-mono text-xs">{one.means}</span>
              {one.fieldLabel && <span className="caption"> {one.fieldLabel}</span>}
            </span>
            <span className="caption max-md:hidden" title={exact(one.at)}>
              {one.by}, {ago(one.at)}
            </span>
            {person.role !== 'viewer' && (
              <button
                type="button"
                className="button-plain"
                aria-label={`Undo ${one.stray}`}
                disabled={undo.isPending}
                onClick={() => undo.mutate([one.id])}
              >
                Undo
              </button>
            )}
          </li>
        ))}
      </ul>
      <p className="caption px-5 pt-2">
        Where the same stray keeps coming, make it an alias in{' '}
        <Link className="text-accent underline" to="/conventions">
          Conventions
        </Link>
        .
      </p>
    </>
  );
}
