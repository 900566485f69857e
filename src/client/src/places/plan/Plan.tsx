import { useSearchParams } from 'react-router';
import { CampaignList } from './CampaignList';
import { CampaignView } from './CampaignView';
import { HandOverList } from './HandOverList';
import { PageList } from './PageList';
import { PlacementList } from './PlacementList';

const views = [
  ['campaigns', 'Campaigns'],
  ['placements', 'Placements'],
  ['pages', 'Pages'],
  ['handed-over', 'Handed over'],
] as const;
type View = (typeof views)[number][0];

/** What is written down before anything is built. */
export function Plan() {
  const [search, setSearch] = useSearchParams();
  const view = (views.find(([v]) => v === search.get('view'))?.[0] ?? 'campaigns') as View;
  const campaign = search.get('campaign');

  if (campaign)
    return <CampaignView id={campaign} onLeave={() => setSearch({})} onOpen={(id) => setSearch({ campaign: id })} />;

  const parts = (
    <nav aria-label="Parts of the plan" className="flex h-8 items-stretch rounded border border-line-strong bg-sheet">
      {views.map(([name, says]) => (
        <button
          key={name}
          type="button"
          aria-current={view === name ? 'page' : undefined}
          className="border-r border-line px-3 last:border-r-0 hover:text-accent aria-[current=page]:bg-accent-wash aria-[current=page]:font-medium"
          onClick={() => setSearch(name === 'campaigns' ? {} : { view: name })}
        >
          {says}
        </button>
      ))}
    </nav>
  );
  if (view === 'placements') return <PlacementList parts={parts} />;
  if (view === 'pages') return <PageList parts={parts} />;
  if (view === 'handed-over') return <HandOverList parts={parts} />;
  return <CampaignList parts={parts} onOpen={(id) => setSearch({ campaign: id })} />;
}
