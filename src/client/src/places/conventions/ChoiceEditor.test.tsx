import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import { ChoiceEditor } from './ChoiceEditor';
import type { Choice, ConventionDocument } from './document';

const words = (...written: string[]) =>
  written.map((w) => ({ written: w, label: w, aliases: [], retired: w === 'fax', successor: null }));
const document = (choices: Choice[]) =>
  ({
    choices,
    fields: [
      { key: 'utm_source', label: 'Source', means: 'byKey', words: words('nattervine', 'trellis') },
      { key: 'utm_medium', label: 'Medium', means: 'byKey', words: words('social', 'email', 'fax') },
    ],
  }) as unknown as ConventionDocument;
const line: Choice = { field: 'utm_source', word: 'nattervine', narrows: 'utm_medium', to: ['social'] };
const placements = {
  'GET /api/v1/placements': {
    data: [
      { defaults: { utm_source: 'nattervine', utm_medium: 'social' } },
      { defaults: { utm_source: 'trellis', utm_medium: 'email' } },
      { defaults: { utm_source: 'trellis', utm_medium: 'unknown' } },
    ],
  },
};

function editor(choices: Choice[], mayWrite = true) {
  const onChange = vi.fn();
  show(<ChoiceEditor document={document(choices)} mayWrite={mayWrite} onChange={onChange} />, placements);
  return () => onChange.mock.lastCall?.[0] as Choice[];
}

describe('words that go together', () => {
  it('are ticked among those that are not retired, and one must stay', () => {
    const changed = editor([line]);
    expect(screen.queryByLabelText('fax')).toBeNull();
    expect(screen.getByLabelText<HTMLInputElement>('social').disabled).toBe(true);
    fireEvent.click(screen.getByLabelText('email'));
    expect(changed()[0]!.to).toEqual(['social', 'email']);
    fireEvent.click(screen.getByRole('button', { name: 'Remove line 1' }));
    expect(changed()).toEqual([]);
  });

  it('are proposed as the placements have them, those that are there left out', async () => {
    const changed = editor([line]);
    expect(await screen.findByText('trellis → email')).toBeTruthy();
    expect(screen.queryByText('nattervine → social')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Add' }));
    expect(changed()).toEqual([line, { field: 'utm_source', word: 'trellis', narrows: 'utm_medium', to: ['email'] }]);
  });

  it('are taken in all at once', async () => {
    const changed = editor([]);
    expect(screen.getByText('No limits yet.')).toBeTruthy();
    fireEvent.click(await screen.findByRole('button', { name: 'Add all 2' }));
    expect(changed().map((c) => c.word)).toEqual(['nattervine', 'trellis']);
  });

  it('are only read by whoever does not write the convention', () => {
    editor([line], false);
    expect(screen.getByLabelText<HTMLInputElement>('email').disabled).toBe(true);
    expect(screen.queryByRole('button')).toBeNull();
  });
});
