import { Command } from 'cmdk';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { places } from './Rail';
import { useDebounced } from './useDebounced';
import { useHotkey } from './useHotkey';
import { useWatch } from './watch/watching';
import { findQuery } from '../api/queries';

/** Ctrl+K: goes anywhere, finds campaigns, placements, links and pages by title, slug, client or medium. */
export function CommandPalette() {
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState('');
  const navigate = useNavigate();
  const { watching, watch } = useWatch();
  useHotkey('Ctrl+k', () => setOpen(true));

  const asked = useDebounced(search.trim(), 120);
  const found = useQuery({ ...findQuery(asked), enabled: open && asked.length > 1, placeholderData: keepPreviousData });
  const { campaigns = [], placements = [], links = [], pages = [] } = (asked.length > 1 && found.data) || {};

  function go(to: string) {
    setOpen(false);
    setSearch('');
    void navigate(to);
  }

  const itemClass = 'flex items-baseline gap-2 rounded px-2 py-1.5 aria-selected:bg-accent-wash';
  const groupClass =
    '[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:py-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-quiet';
  return (
    <Command.Dialog
      open={open}
      onOpenChange={setOpen}
      label="Go anywhere"
      contentClassName="floating fixed top-[14vh] left-1/2 z-50 w-[560px] max-w-[92vw] -translate-x-1/2"
      overlayClassName="fixed inset-0 z-40 bg-ink/20"
    >
      <Command.Input
        value={search}
        onValueChange={setSearch}
        placeholder="A place, campaign, placement, link, page, client or medium …"
        className="h-11 w-full border-b border-line bg-transparent px-4 outline-none"
      />
      <Command.List className="max-h-[50vh] overflow-y-auto p-1">
        <Command.Empty className="caption p-3">No matches.</Command.Empty>
        <Command.Group heading="Places" className={groupClass}>
          {places.map((place) => (
            <Command.Item
              key={place.path}
              value={`place ${place.name}`}
              onSelect={() => go(place.path)}
              className={itemClass}
            >
              {place.name}
            </Command.Item>
          ))}
        </Command.Group>
        <Command.Group heading="Beside the place" className={groupClass}>
          <Command.Item
            value="watch arrivals live"
            onSelect={() => {
              setOpen(false);
              watch(!watching);
            }}
            className={itemClass}
          >
            {watching ? 'Close Watch' : 'Watch arrivals live'}
          </Command.Item>
        </Command.Group>
        {campaigns.length > 0 && (
          <Command.Group heading="Campaigns" className={groupClass}>
            {campaigns.map((campaign) => (
              <Command.Item
                key={campaign.id}
                value={`${search} campaign ${campaign.id}`}
                onSelect={() => go(`/plan?campaign=${campaign.id}`)}
                className={itemClass}
              >
                {campaign.name} <span className="caption font-mono">{campaign.value}</span>
                {campaign.archived && <span className="caption">archived</span>}
              </Command.Item>
            ))}
          </Command.Group>
        )}
        {placements.length > 0 && (
          <Command.Group heading="Placements" className={groupClass}>
            {placements.map((placement) => (
              <Command.Item
                key={placement.id}
                value={`${search} placement ${placement.id}`}
                onSelect={() => go(`/plan?view=placements&placement=${placement.id}`)}
                className={itemClass}
              >
                {placement.name} <span className="caption">{placement.publisher ?? placement.channel}</span>
              </Command.Item>
            ))}
          </Command.Group>
        )}
        {links.length > 0 && (
          <Command.Group heading="Links" className={groupClass}>
            {links.map((link) => (
              <Command.Item
                key={link.id}
                value={`${search} link ${link.id}`}
                onSelect={() => go(`/ledger?search=${encodeURIComponent(link.slug ?? link.title)}&link=${link.id}`)}
                className={itemClass}
              >
                <span className="truncate">{link.title}</span> <span className="caption font-mono">{link.slug}</span>
              </Command.Item>
            ))}
          </Command.Group>
        )}
        {pages.length > 0 && (
          <Command.Group heading="Pages: build a link to" className={groupClass}>
            {pages.map((page) => (
              <Command.Item
                key={page.address}
                value={`${search} page ${page.address}`}
                onSelect={() => go(`/compose?page=${encodeURIComponent(page.address)}`)}
                className={itemClass}
              >
                <span className="truncate">{page.title ?? page.address}</span>{' '}
                <span className="caption truncate font-mono">{page.address.replace(/^https?:\/\//, '')}</span>
              </Command.Item>
            ))}
          </Command.Group>
        )}
      </Command.List>
    </Command.Dialog>
  );
}
