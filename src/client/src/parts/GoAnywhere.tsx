import { Command } from 'cmdk';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useQuery } from '@tanstack/react-query';
import { api, dataOf } from '../api/client';
import { places } from './Rail';
import { useHotkey } from './useHotkey';

/** Ctrl+K: goes anywhere, finds links and campaigns. */
export function GoAnywhere() {
  const [open, setOpen] = useState(false);
  const [search, setSearch] = useState('');
  const navigate = useNavigate();
  useHotkey('Ctrl+k', () => setOpen(true));

  const links = useQuery({
    queryKey: ['links', 'find', search],
    queryFn: async () => dataOf(await api.GET('/api/v1/links', { params: { query: { search } } })),
    enabled: open && search.trim().length > 1,
  });
  const campaigns = useQuery({
    queryKey: ['campaigns'],
    queryFn: async () => dataOf(await api.GET('/api/v1/campaigns')),
    enabled: open,
  });

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
        placeholder="Go to a place, a campaign or a link …"
        className="h-11 w-full border-b border-line bg-transparent px-4 outline-none"
      />
      <Command.List className="max-h-[50vh] overflow-y-auto p-1">
        <Command.Empty className="caption p-3">Nothing of that name.</Command.Empty>
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
        <Command.Group heading="Campaigns" className={groupClass}>
          {campaigns.data?.map((campaign) => (
            <Command.Item
              key={campaign.id}
              value={`campaign ${campaign.name} ${campaign.value}`}
              onSelect={() => go(`/ledger?campaign=${campaign.id}`)}
              className={itemClass}
            >
              {campaign.name} <span className="caption font-mono">{campaign.value}</span>
            </Command.Item>
          ))}
        </Command.Group>
        <Command.Group heading="Links" className={groupClass}>
          {links.data?.links.slice(0, 8).map((link) => (
            <Command.Item
              key={link.id}
              value={`${search} ${link.title} ${link.id}`}
              onSelect={() => go(`/ledger?search=${encodeURIComponent(search)}&link=${link.id}`)}
              className={itemClass}
            >
              <span className="truncate">{link.title}</span>{' '}
              <span className="caption font-mono">{link.shortUrl?.split('/').pop()}</span>
            </Command.Item>
          ))}
        </Command.Group>
      </Command.List>
    </Command.Dialog>
  );
}
