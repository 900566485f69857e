import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { choose, show } from '../../test/show';
import { BulkActions } from './BulkActions';

const campaigns = { data: [{ id: 'c1', name: 'Bulb Sale' }] };
const changeMany = 'POST /api/v1/links/bulk';

const effect = (changed: number, undo: string | null) => ({
  changed,
  undo,
  left: [{ why: 'They have no short link', links: 1 }],
  sample: [{ title: 'Gate poster', before: 'https://marrowmere.example/a', after: 'https://marrowmere.example/b' }],
});

function bar(answers: Parameters<typeof show>[1] = {}, role: Parameters<typeof show>[2] = 'editor', retired = false) {
  const chooseNone = vi.fn();
  const chooseFound = vi.fn();
  const sent = show(
    <BulkActions
      chosen={new Set(['l1', 'l2'])}
      found={40_000}
      onChooseFound={chooseFound}
      onChooseNone={chooseNone}
      onCodes={vi.fn()}
      retired={retired}
    />,
    { 'GET /api/v1/campaigns': campaigns, ...answers },
    role,
  );
  return { sent, chooseNone, chooseFound };
}

describe('what is done with chosen links', () => {
  it('is counted first, and changed only when that is wanted', async () => {
    const { sent, chooseNone } = bar({
      [changeMany]: ({ body }) => effect(1, (body as { count: boolean }).count ? null : 'u1'),
    });
    await choose('Change selected links', 'Change destination');
    fireEvent.change(screen.getByRole('textbox'), { target: { value: 'https://marrowmere.example/b' } });
    fireEvent.click(screen.getByRole('button', { name: 'Preview changes' }));

    await screen.findByText(/1 link will be changed to open https:\/\/marrowmere.example\/b, each with its own tags/);
    expect(screen.getByText(/They have no short link: 1/)).toBeTruthy();
    expect(screen.getByRole('list', { name: 'Examples' }).textContent).toContain('marrowmere.example/a');
    expect(sent.map((s) => s.body)).toEqual([
      { links: ['l1', 'l2'], leadsTo: 'https://marrowmere.example/b', count: true },
    ]);
    expect(chooseNone).not.toHaveBeenCalled();

    fireEvent.click(screen.getByRole('button', { name: 'Change destination' }));
    await waitFor(() => expect(chooseNone).toHaveBeenCalled());
    expect(sent[1]?.body).toMatchObject({ leadsTo: 'https://marrowmere.example/b', count: false });
  });

  it('is left as it is when somebody thinks better of it', async () => {
    const { sent } = bar({ [changeMany]: () => effect(2, null) });
    fireEvent.click(screen.getByRole('button', { name: 'Archive' }));
    fireEvent.click(await screen.findByRole('button', { name: 'Cancel' }));
    expect(screen.getByText('2 links chosen')).toBeTruthy();
    expect(sent.every((s) => (s.body as { count: boolean }).count)).toBe(true);
  });

  it('can’t be done where nothing would change', async () => {
    bar({ [changeMany]: () => effect(0, null) });
    await choose('Move to campaign', 'Bulb Sale');
    await waitFor(() => screen.getByRole('button', { name: 'Move them' }));
    expect(screen.getByRole('button', { name: 'Move them' }).hasAttribute('disabled')).toBe(true);
  });

  it('keeps topics in lower case', async () => {
    const { sent } = bar({ [changeMany]: () => effect(2, null) });
    await choose('Change selected links', 'Add topic');
    fireEvent.change(screen.getByLabelText('Add topic'), { target: { value: '  Winter ' } });
    fireEvent.click(screen.getByRole('button', { name: 'Preview changes' }));
    await screen.findByText(/given the topic winter/);
    expect(sent[0]?.body).toMatchObject({ addTopics: ['winter'], count: true });
  });

  it('says the refusal as the server words it', async () => {
    bar({ [changeMany]: { refused: 'Choose 1 to 10,000 links.' } });
    fireEvent.click(screen.getByRole('button', { name: 'Archive' }));
    expect((await screen.findByRole('alert')).textContent).toBe('Choose 1 to 10,000 links.');
  });

  it('is codes alone for somebody who only looks', () => {
    bar({}, 'viewer');
    expect(screen.getAllByRole('button').map((b) => b.textContent)).toEqual([
      'Choose all 10,000',
      'Codes and print sheet',
      'Clear selection',
    ]);
  });

  it('is bringing back among links that were archived', () => {
    bar({}, 'editor', true);
    expect(screen.getByRole('button', { name: 'Restore' })).toBeTruthy();
  });

  it('can be everything a search finds', () => {
    const { chooseFound } = bar();
    fireEvent.click(screen.getByRole('button', { name: 'Choose all 10,000' }));
    expect(chooseFound).toHaveBeenCalled();
  });
});
