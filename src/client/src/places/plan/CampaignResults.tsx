import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link } from 'react-router';
import type { CampaignAnswer, Schema } from '../../api/client';
import { arrivalsAddress } from '../../parts/arrivalsAddress';
import { Board, type BoardRow } from '../../parts/board/Board';
import { usualStations } from '../../parts/board/measures';
import { count, money, noFigure } from '../../parts/format';
import { PictureMenu } from '../../parts/picture/PictureMenu';
import { usePerson } from '../../parts/person';
import { Ruler } from '../../parts/ruler/Ruler';
import { extentOf } from '../../parts/ruler/rulerScale';
import { conditionOf } from '../arrivals/conditions';
import { arrivalsQuery, dayNotesQuery } from '../arrivals/queries';

interface CampaignResultsProps {
  campaign: CampaignAnswer;
  results: Schema['PlacementResult'][];
  total: Schema['PlacementResult'];
}

const rowHeight = 44;
const headHeight = 33;

/** What came of a campaign so far: its visits over time, and a line of stations for each placement. */
export function CampaignResults({ campaign, results, total }: CampaignResultsProps) {
  const { today } = usePerson();
  const range = {
    from: campaign.startsOn ?? today,
    to: campaign.endsOn && campaign.endsOn < today ? campaign.endsOn : today,
  };
  const { from, to } = range.from <= range.to ? range : { from: range.to, to: range.to };
  const extent = useMemo(() => extentOf({ from, to }, null, today), [from, to, today]);
  const course = useQuery(
    arrivalsQuery(
      { from: extent.from, to: extent.to },
      { rows: '', where: [conditionOf('campaign', campaign.value)], measures: 'visits', series: extent.unit },
    ),
  );
  const notes = useQuery(dayNotesQuery({ from: extent.from, to: extent.to }));
  const points = useMemo(() => new Map(course.data?.series.map((p) => [p.day, p.visits])), [course.data]);
  const refunded = Number(total.figures.refunds?.amount ?? 0) > 0;
  const rows = [
    lineOf('all', 0, 'All placements', total, refunded),
    ...results.map((r, i) => lineOf(String(i), 1, r.placement, r, refunded)),
  ];
  return (
    <section aria-label="Results so far" className="border-t border-line bg-sheet">
      <h2 className="flex items-baseline gap-3 px-5 pt-4 pb-2 font-semibold">
        Results so far
        <Link to={`/ledger?campaign=${campaign.id}`} className="button-plain text-xs font-normal">
          Show links in the Ledger
        </Link>
        <Link
          to={arrivalsAddress({
            where: [['campaign', campaign.value]],
            rows: ['source', 'medium', 'content'],
            span: '365d',
          })}
          className="button-plain text-xs font-normal"
        >
          Show in Arrivals
        </Link>
        <span className="ml-auto self-center text-xs font-normal">
          <PictureMenu title={`${campaign.name}, results so far`} />
        </span>
      </h2>
      {results.length === 0 ? (
        <p className="px-5 pb-5 text-quiet">No results until the first link is created.</p>
      ) : (
        <>
          <Ruler
            extent={extent}
            counts="Visits"
            points={points}
            range={{ from, to }}
            bars={[campaign]}
            notes={notes.data}
            today={today}
          />
          <div className="flex" style={{ height: headHeight + rows.length * rowHeight }}>
            <Board
              label="Results by placement"
              head="placement"
              rows={rows}
              stations={usualStations}
              columns={[]}
              extras={['Links', ...(refunded ? ['Refunds'] : []), 'Cost', 'Profit']}
            />
          </div>
        </>
      )}
    </section>
  );
}

const lineOf = (
  id: string,
  level: number,
  name: string | null,
  result: Schema['PlacementResult'],
  refunded: boolean,
): BoardRow => ({
  id,
  level,
  name: name ?? 'No placement',
  quiet: name === null,
  figures: result.figures,
  extras: [
    count(result.links),
    ...(refunded ? [result.figures.refunds ? money(result.figures.refunds) : noFigure] : []),
    result.cost ? money(result.cost) : noFigure,
    result.profit ? money(result.profit) : noFigure,
  ],
});
