import type { Schema } from '../../api/client';
import { count } from '../../parts/format';

/** A change to many links, without the links. */
export type Change = Omit<Partial<Schema['BulkLinkChangeRequest']>, 'links' | 'count'>;

/** “1 link”, “12 links”. */
export const links = (n: number) => `${count(n)} ${n === 1 ? 'link' : 'links'}`;

/** What becomes of links by a change, after “will be” or by itself. */
export function changeSays(change: Change, campaign: string): string {
  if (change.campaign) return `moved to ${campaign}; their tags stay`;
  if (change.leadsTo) return `changed to open ${change.leadsTo}, each with its own tags`;
  if (change.shorten) return 'given a short link and a QR code';
  if (change.addTopics?.length) return `given the topic ${change.addTopics.join(', ')}`;
  if (change.dropTopics?.length) return `no longer under the topic ${change.dropTopics.join(', ')}`;
  return change.retire ? 'archived; their short links keep working' : 'restored';
}

/** The button that does it. */
export function changeButton(change: Change): string {
  if (change.campaign) return 'Move them';
  if (change.leadsTo) return 'Change destination';
  if (change.shorten) return 'Create short links';
  if (change.addTopics?.length) return 'Add topic';
  if (change.dropTopics?.length) return 'Remove topic';
  return change.retire ? 'Archive them' : 'Restore them';
}
