import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { choose, show } from '../../test/show';
import { ChannelEditor } from './ChannelEditor';
import type { Channel } from './document';

const channels: Channel[] = [
  {
    name: 'Search ads',
    group: 'paid',
    conditions: [
      { subject: 'medium', test: 'is', values: ['cpc', 'ppc'] },
      { subject: 'referrerKind', test: 'is', values: ['searchEngine'] },
    ],
  },
  { name: 'Partners', group: 'own', conditions: [{ subject: 'source', test: 'empty', values: [] }] },
  { name: 'Rest', group: 'own', conditions: [] },
];

function editor(mayWrite = true) {
  const onChange = vi.fn();
  show(
    <ChannelEditor
      channels={channels}
      neverReached={[{ channel: 'Partners', takenBy: 'Search ads' }]}
      overlaps={[{ channel: 'Rest', earlier: 'Partners', words: ['referral'] }]}
      mayWrite={mayWrite}
      onChange={onChange}
    />,
  );
  return () => onChange.mock.lastCall?.[0] as Channel[];
}
const open = (name: string) => fireEvent.click(screen.getByRole('button', { name: new RegExp(name) }));

describe('the table of channels', () => {
  it('is read out in words', () => {
    editor();
    expect(screen.getByText('medium is one of cpc, ppc and kind of referrer is search engine')).toBeTruthy();
    expect(screen.getByText('source is empty')).toBeTruthy();
    expect(screen.getByText('everything else')).toBeTruthy();
  });

  it('says which rows are never reached, and which come first for some words', () => {
    editor();
    expect(screen.getByText(/Never reached: “Search ads” matches all of it first/)).toBeTruthy();
    expect(screen.getByText(/“Partners” comes first for referral/)).toBeTruthy();
  });

  it('is put in another order, the row in hand staying open', () => {
    const changed = editor();
    open('Partners');
    fireEvent.click(screen.getByRole('button', { name: 'Move Partners up' }));
    expect(changed().map((c) => c.name)).toEqual(['Partners', 'Search ads', 'Rest']);
  });

  it('takes conditions, changes and loses them', async () => {
    const changed = editor();
    open('Search ads');
    const values = screen.getByLabelText('Values of condition 1 of Search ads');
    fireEvent.change(values, { target: { value: 'cpc, paid_search' } });
    fireEvent.blur(values);
    expect(changed()[0]!.conditions[0]!.values).toEqual(['cpc', 'paid_search']);
    await choose('Test of condition 1 of Search ads', 'is empty');
    expect(changed()[0]!.conditions[0]).toEqual({ subject: 'medium', test: 'empty', values: [] });
    await choose('Subject of condition 1 of Search ads', 'source');
    expect(changed()[0]!.conditions[0]!.subject).toBe('source');
    fireEvent.click(screen.getByRole('button', { name: 'Remove condition 2 of Search ads' }));
    expect(changed()[0]!.conditions).toHaveLength(1);
    fireEvent.click(screen.getByRole('button', { name: 'and …' }));
    expect(changed()[0]!.conditions).toHaveLength(3);
  });

  it('gets a channel in front, where it claims first, and loses one', () => {
    const changed = editor();
    fireEvent.click(screen.getByRole('button', { name: 'Add channel' }));
    expect(changed().map((c) => c.name)).toEqual(['New channel', 'Search ads', 'Partners', 'Rest']);
    open('Partners');
    fireEvent.click(screen.getByRole('button', { name: 'Remove' }));
    expect(changed().map((c) => c.name)).toEqual(['Search ads', 'Rest']);
  });

  it('is only read by whoever does not write the convention', () => {
    editor(false);
    open('Search ads');
    expect(screen.queryByLabelText(/Name of channel/)).toBeNull();
    expect(screen.queryByRole('button', { name: 'Add channel' })).toBeNull();
  });
});
