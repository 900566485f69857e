import { useSearchParams } from 'react-router';
import { PartTabs } from '../../parts/PartTabs';
import { LinkReviewList } from './linkReviews/LinkReviewList';
import { LinkReviewView } from './linkReviews/LinkReviewView';
import { BatchView } from './BatchView';
import { MailList } from './mails/MailList';
import { MailView } from './mails/MailView';
import { SheetList } from './SheetList';

const views = [
  ['sheets', 'Sheets'],
  ['mails', 'Mails'],
  ['link-reviews', 'Link reviews'],
] as const;
type View = (typeof views)[number][0];

/** Many links at once: sheets in and out, HTML mails, and links that are in use already. */
export function Batches() {
  const [search, setSearch] = useSearchParams();
  const view = (views.find(([v]) => v === search.get('view'))?.[0] ?? 'sheets') as View;
  const go = (name: View) => setSearch(name === 'sheets' ? {} : { view: name });
  const batch = search.get('batch');
  const mail = search.get('mail');
  const review = search.get('link-review');

  if (batch)
    return (
      <BatchView key={batch} id={batch} onLeave={() => go('sheets')} onOpen={(next) => setSearch({ batch: next })} />
    );
  if (mail) return <MailView key={mail} id={mail} onLeave={() => go('mails')} />;
  if (review) return <LinkReviewView key={review} id={review} onLeave={() => go('link-reviews')} />;

  const parts = <PartTabs label="Parts of batches" parts={views} at={view} onGo={go} />;
  if (view === 'mails') return <MailList parts={parts} onOpen={(id) => setSearch({ mail: id })} />;
  if (view === 'link-reviews')
    return <LinkReviewList parts={parts} onOpen={(id) => setSearch({ 'link-review': id })} />;
  return <SheetList parts={parts} onOpen={(id) => setSearch({ batch: id })} />;
}
