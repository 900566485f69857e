import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ChevronRight } from 'lucide-react';
import { Fragment, useState } from 'react';
import { live } from '../../api/live';
import { count, money, rate } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { Select } from '../../parts/Select';
import { usualDays } from './credit';
import { dimensions, type OwnDimension } from './dimensions';
import { FigureTable } from './FigureTable';
import { pathsQuery } from './queries';
import { isOpen } from './range';
import { rowName } from './rowName';
import type { View } from './view';

/** What visits of a path can be called by. */
const named = ['channel', 'group', 'campaign', 'placement', 'source', 'medium', 'sourceMedium', 'link', 'referrer'];
const perPage = 50;

/** The visits that led to conversions, one after another. */
export function PathList({ view, own }: { view: View; own: OwnDimension[] }) {
  const { today } = usePerson();
  const [by, setBy] = useState('channel');
  const [page, setPage] = useState(1);
  const read = useQuery({
    ...pathsQuery(view.range, view.where, by, view.credit?.days ?? usualDays, page),
    placeholderData: keepPreviousData,
    ...(isOpen(view.range, today) && live),
  });
  if (read.isError) return <p className="flex-1 bg-sheet p-5 text-error">{read.error.message}</p>;
  const all = read.data?.conversions ?? 0;
  return (
    <FigureTable
      label="Paths"
      first="Visits, the converting one last"
      firstWidth="max-w-[60vw]"
      heads={[
        ['conversions', 'Conversions'],
        [null, 'Of all'],
        [null, 'Revenue'],
      ]}
      order="conversions"
      onOrder={() => {}}
      note={
        <span className="flex flex-wrap items-center gap-2">
          Visits are called by their
          <Select
            label="Visits are called by"
            value={by}
            onChange={(next) => {
              setBy(next);
              setPage(1);
            }}
            options={[
              ...named.map((name) => [name, dimensions[name]!.label] as const),
              ...own.map((o) => [o.name, o.label] as const),
            ]}
          />
          {read.data && (
            <span>
              {count(all)} {all === 1 ? 'conversion' : 'conversions'} by {count(read.data.found)}{' '}
              {read.data.found === 1 ? 'path' : 'paths'}; the last five visits of each are shown.
            </span>
          )}
        </span>
      }
      rows={read.data?.paths.map((path, i) => ({
        key: `${i} ${path.steps.join('\n')}`,
        first: (
          <span className="inline-flex items-center gap-1">
            {path.isCut && <span className="text-quiet">earlier visits</span>}
            {path.steps.map((step, place) => (
              <Fragment key={place}>
                {(place > 0 || path.isCut) && (
                  <ChevronRight size={13} strokeWidth={1.5} className="shrink-0 text-quiet" aria-label="then" />
                )}
                <span className={step === null ? 'text-quiet' : ''}>{rowName(by, step, read.data.names)}</span>
              </Fragment>
            ))}
          </span>
        ),
        cells: [count(path.conversions), rate(path.conversions / all), money(path.revenue)],
      }))}
      none={`Nobody converted in this range${view.where.length > 0 ? ' in visits that fulfil the filters' : ''}.`}
      page={page}
      pages={read.data ? Math.ceil(read.data.found / perPage) : 1}
      onPage={setPage}
    />
  );
}
