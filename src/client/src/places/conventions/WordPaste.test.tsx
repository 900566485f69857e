import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import type { Field } from './document';
import { WordPaste } from './WordPaste';

const field = { key: 'utm_medium', label: 'Medium', words: [] } as unknown as Field;
const look = 'POST /api/v1/convention/words/preview';
const looked = (written: string, verdict: string, like: string | null = null) => ({
  word: { written, label: written, aliases: [], retired: false, successor: null },
  verdict,
  like,
});

describe('pasted words', () => {
  it('are told apart from those that are there, and taken when they are new', async () => {
    const onAdd = vi.fn();
    show(<WordPaste field={field} onAdd={onAdd} />, {
      [look]: {
        data: [
          looked('podcast', 'fresh'),
          looked('email', 'already', 'email'),
          looked('e-mail', 'sameLetters', 'email'),
          looked('', 'unusable'),
        ],
      },
    });
    fireEvent.change(screen.getByLabelText('Words to add'), { target: { value: 'podcast\nemail\ne-mail\n???' } });
    const list = await screen.findByRole('list', { name: 'Pasted words' });
    expect([...list.querySelectorAll('li')].map((l) => l.textContent)).toEqual([
      'podcastnew',
      'emailalready in the list (email)',
      'e-mailsame letters as email',
      'no usable characters',
    ]);
    expect(screen.getByLabelText<HTMLInputElement>('Add email').disabled).toBe(true);
    await waitFor(() => expect(screen.getByRole('button', { name: 'Add 1' }).hasAttribute('disabled')).toBe(false));

    // What is like another word comes along only where one says so.
    fireEvent.click(screen.getByLabelText('Add e-mail'));
    await waitFor(() => expect(screen.getByRole('button', { name: 'Add 2' }).hasAttribute('disabled')).toBe(false));
    // A slow machine may look once more in between; the button waits for it.
    await waitFor(() => {
      fireEvent.click(screen.getByRole('button', { name: 'Add 2' }));
      expect(onAdd).toHaveBeenCalled();
    });
    expect((onAdd.mock.lastCall?.[0] as { written: string }[]).map((w) => w.written)).toEqual(['podcast', 'e-mail']);
    expect(screen.getByLabelText<HTMLTextAreaElement>('Words to add').value).toBe('');
  });

  it('are left out one by one', async () => {
    show(<WordPaste field={field} onAdd={vi.fn()} />, { [look]: { data: [looked('podcast', 'fresh')] } });
    fireEvent.change(screen.getByLabelText('Words to add'), { target: { value: 'podcast' } });
    fireEvent.click(await screen.findByLabelText('Add podcast'));
    expect(screen.getByRole('button', { name: 'Add 0' }).hasAttribute('disabled')).toBe(true);
  });

  it('that are too many are refused with the limit', async () => {
    show(<WordPaste field={field} onAdd={vi.fn()} />, { [look]: { refused: 'Paste at most 2 MB of text.' } });
    fireEvent.change(screen.getByLabelText('Words to add'), { target: { value: 'x' } });
    expect(await screen.findByText('Paste at most 2 MB of text.')).toBeTruthy();
  });
});
