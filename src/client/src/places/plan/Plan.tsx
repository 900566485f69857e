import { useSearchParams } from 'react-router';
import { PartTabs } from '../../parts/PartTabs';
import { CampaignList } from './CampaignList';
import { CampaignView } from './CampaignView';
import { CostImports } from './CostImports';
import { PartnerPageList } from './PartnerPageList';
import { PageList } from './PageList';
import { PlacementList } from './PlacementList';

const views = [
  ['campaigns', 'Campaigns'],
  ['placements', 'Placements'],
  ['pages', 'Pages'],
  ['costs', 'Costs'],
  ['handed-over', 'Partner pages'],
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
    <PartTabs
      label="Parts of the plan"
      parts={views}
      at={view}
      onGo={(name) => setSearch(name === 'campaigns' ? {} : { view: name })}
    />
  );
  if (view === 'placements') return <PlacementList parts={parts} />;
  if (view === 'pages') return <PageList parts={parts} />;
  if (view === 'costs') return <CostImports parts={parts} />;
  if (view === 'handed-over') return <PartnerPageList parts={parts} />;
  return <CampaignList parts={parts} onOpen={(id) => setSearch({ campaign: id })} />;
}
