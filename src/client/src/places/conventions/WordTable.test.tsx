import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import type { Field, Word } from './document';
import { WordTable } from './WordTable';

const word = (written: string, more: Partial<Word> = {}): Word => ({
  written,
  label: written,
  aliases: [],
  retired: false,
  successor: null,
  ...more,
});
const words = [
  word('email', { label: 'Mail', aliases: ['e_mail', 'newsletter'] }),
  word('social'),
  word('banner', { retired: true, successor: 'display' }),
];
const field = (of: Word[]) => ({ key: 'utm_medium', label: 'Medium', words: of }) as unknown as Field;

function table(of = words, mayWrite = true) {
  const onChange = vi.fn();
  show(<WordTable field={field(of)} mayWrite={mayWrite} onChange={onChange} />);
  return () => onChange.mock.lastCall?.[0] as Word[];
}

describe('the words of a field', () => {
  it('are found by what they are written, called or also known as', () => {
    table();
    fireEvent.change(screen.getByLabelText('Find a word'), { target: { value: 'NEWS' } });
    expect(screen.getByDisplayValue('email')).toBeTruthy();
    expect(screen.queryByDisplayValue('social')).toBeNull();
    expect(screen.getByText('3 words')).toBeTruthy();
  });

  it('are changed one by one, the others stay', () => {
    const changed = table();
    fireEvent.change(screen.getByLabelText('Written form of word 2'), { target: { value: 'community' } });
    expect(changed().map((w) => w.written)).toEqual(['email', 'community', 'banner']);
    fireEvent.click(screen.getByLabelText('social is retired'));
    expect(changed()[1]).toMatchObject({ written: 'social', retired: true });
    fireEvent.change(screen.getByLabelText('Successor of banner'), { target: { value: '' } });
    expect(changed()[2]).toMatchObject({ successor: null });
    fireEvent.click(screen.getByRole('button', { name: 'Remove social' }));
    expect(changed().map((w) => w.written)).toEqual(['email', 'banner']);
  });

  it('get other names when the box is left, so that commas can be typed', () => {
    const changed = table();
    const box = screen.getByLabelText('Aliases of email');
    fireEvent.change(box, { target: { value: 'e_mail, ' } });
    expect(changed()).toBeUndefined();
    fireEvent.blur(box);
    expect(changed()[0]!.aliases).toEqual(['e_mail']);
  });

  it('are merged: one becomes another name of the other', () => {
    const changed = table();
    fireEvent.click(screen.getByRole('button', { name: 'Merge social into another word' }));
    expect(screen.getByRole('status').textContent).toContain('Choose the word to merge “social” into');
    fireEvent.click(screen.getByRole('button', { name: 'Merge into email' }));
    expect(changed().map((w) => w.written)).toEqual(['email', 'banner']);
    expect(changed()[0]!.aliases).toContain('social');
  });

  it('are shown in part where there are very many', () => {
    table(Array.from({ length: 1_000 }, (_, i) => word(`word_${i}`)));
    expect(screen.getAllByRole('row')).toHaveLength(201);
    expect(screen.getByText(/the first 200 shown/)).toBeTruthy();
  });

  it('are only read by whoever does not write the convention', () => {
    table(words, false);
    expect(screen.queryByRole('button', { name: /Remove/ })).toBeNull();
    expect(screen.getByDisplayValue('email').hasAttribute('disabled')).toBe(true);
  });
});
