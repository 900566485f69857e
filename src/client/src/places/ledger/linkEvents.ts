import type { Schema } from '../../api/client';
import { changesOf } from './routeChanges';

type Event = Schema['LinkEvent'];
type Filing = Schema['LinkMetadata'];

/** What was done, one line for each thing. */
export function eventSays(event: Event): string[] {
  if (event.routeBefore && event.routeAfter) return changesOf(event.routeBefore, event.routeAfter);
  if (event.filingBefore && event.filingAfter) return filed(event.filingBefore, event.filingAfter);
  switch (event.what) {
    case 'made':
      return ['made'];
    case 'placed':
      return ['marked as placed'];
    case 'shortened':
      return [`given the short link ${event.shortUrl}, and one for its code`];
    case 'unshortened':
      return ['its short links were removed'];
    case 'notPlaced':
      return ['marked as not placed'];
    case 'resultsPageMade':
      return ['results page created'];
    case 'priced':
      return ['given other rates'];
    case 'resultsPageWithdrawn':
      return ['results page withdrawn'];
    default:
      return [event.what];
  }
}

function filed(before: Filing, after: Filing): string[] {
  const lines: string[] = [];
  if (before.title !== after.title) lines.push(`title from “${before.title ?? ''}” to “${after.title ?? ''}”`);
  if (before.campaignId !== after.campaignId)
    lines.push(`campaign from ${before.campaign ?? 'none'} to ${after.campaign ?? 'none'}`);
  if (before.topics.join() !== after.topics.join())
    lines.push(`topics from ${before.topics.join(', ') || 'none'} to ${after.topics.join(', ') || 'none'}`);
  if (before.retiredAt !== after.retiredAt) lines.push(after.retiredAt ? 'archived' : 'restored');
  return lines;
}
