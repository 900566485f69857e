import type { ReactNode } from 'react';
import type { LedgerRow } from '../../api/client';
import { ago, count, exact, money } from '../../parts/format';

/** A column of the Ledger beside the link itself. */
export interface Column {
  key: string;
  title: string;
  /** What the whole column means, where its title does not say it. */
  more?: string;
  /** The order it stands for, where links can be ordered by it. */
  order?: string;
  right?: boolean;
  mono?: boolean;
  cell: (link: LedgerRow) => ReactNode;
  /** Said on hover. */
  hover?: (link: LedgerRow) => string | undefined;
}

const bare = (url: string | null) => url?.replace(/^https?:\/\//, '') ?? '';

/** Every column there is, in the order they are shown. */
export const columns: Column[] = [
  { key: 'campaign', title: 'Campaign', cell: (l) => l.campaign },
  { key: 'placement', title: 'Placement', cell: (l) => l.placement },
  { key: 'channel', title: 'Channel', cell: (l) => l.channel },
  { key: 'page', title: 'Page', mono: true, cell: (l) => bare(l.destination), hover: (l) => l.destination },
  { key: 'short', title: 'Short link', mono: true, cell: (l) => bare(l.shortUrl) },
  { key: 'code', title: 'QR link', mono: true, cell: (l) => bare(l.codeShortUrl) },
  { key: 'state', title: 'State', cell: (l) => l.state },
  { key: 'clicks', title: 'Clicks', order: 'clicks', right: true, cell: (l) => count(l.clicks) },
  { key: 'scans', title: 'Scans', order: 'scans', right: true, cell: (l) => count(l.scans) },
  {
    key: 'uses',
    title: 'Uses',
    more: 'Clicks and scans together',
    order: 'uses',
    right: true,
    cell: (l) => count(l.clicks + l.scans),
  },
  {
    key: 'unique',
    title: 'Unique',
    more: 'Distinct daily visitors, added up over days',
    order: 'unique',
    right: true,
    cell: (l) => count(l.unique),
  },
  { key: 'visits', title: 'Visits', order: 'visits', right: true, cell: (l) => count(l.visits) },
  { key: 'conversions', title: 'Conversions', order: 'conversions', right: true, cell: (l) => count(l.conversions) },
  { key: 'revenue', title: 'Revenue', order: 'revenue', right: true, cell: (l) => money(l.revenue) },
  { key: 'cost', title: 'Cost', order: 'cost', right: true, cell: (l) => money(l.cost) },
  {
    key: 'used',
    title: 'Last used',
    order: 'used',
    right: true,
    cell: (l) => (l.lastUsedAt ? ago(l.lastUsedAt) : 'never'),
    hover: (l) => (l.lastUsedAt ? exact(l.lastUsedAt) : undefined),
  },
  { key: 'topics', title: 'Topics', cell: (l) => l.topics.join(', ') },
  { key: 'by', title: 'Created by', cell: (l) => l.createdBy },
  {
    key: 'made',
    title: 'Created',
    order: 'made',
    right: true,
    cell: (l) => ago(l.createdAt),
    hover: (l) => exact(l.createdAt),
  },
];

const usual = ['short', 'state', 'clicks', 'scans', 'unique', 'visits', 'used'];

/** The columns to show of those a person has chosen, in their order; the usual ones where nothing was chosen. */
export function chosenColumns(kept: readonly string[] | null | undefined): string[] {
  return kept ? columns.map((c) => c.key).filter((key) => kept.includes(key)) : usual;
}

/** The order that follows when a heading is chosen: most or newest first, then turned round. */
export function nextOrder(current: string, by: string): string {
  return current === `-${by}` ? by : `-${by}`;
}
