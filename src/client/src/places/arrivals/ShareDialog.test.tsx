import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { ShareDialog } from './ShareDialog';

const page = {
  id: 'p1',
  name: 'For the council',
  url: 'https://beacon.example/results/secret',
  address: 'span=90d',
  withMoney: false,
  endsOn: null,
  ended: false,
  createdBy: 'Orla Fenwick',
  createdAt: '2026-11-01T08:00:00Z',
  openings: 0,
  lastOpenedAt: null,
};
const pages = (more: object = {}) => ({ 'GET /api/v1/results-pages': { data: [{ ...page, ...more }] } });
const dialog = <ShareDialog address="span=90d&rows=source" name="Monday" onClose={() => {}} />;

describe('sharing a view', () => {
  it('makes a page of it, without money unless told otherwise', async () => {
    const sent = show(dialog, { 'POST /api/v1/results-pages': { data: page } });
    fireEvent.click(await screen.findByRole('button', { name: 'Create results page' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        call: 'POST /api/v1/results-pages',
        body: { name: 'Monday', address: 'span=90d&rows=source', withMoney: false, endsOn: null },
      }),
    );
    expect(await screen.findByRole('button', { name: 'Copy its address' })).toBeTruthy();
  });

  it('says who may look until when, and how often somebody did', async () => {
    show(dialog, pages({ withMoney: true, endsOn: '2026-12-31', openings: 3, lastOpenedAt: '2026-11-28T08:00:00Z' }));
    expect((await screen.findByText(/with money · until 31 Dec 2026 · opened 3 times/)).textContent).toContain('Orla');
  });

  it('changes and withdraws a page', async () => {
    const sent = show(dialog, pages());
    fireEvent.click(await screen.findByRole('button', { name: 'Edit' }));
    fireEvent.click(screen.getByLabelText('Show revenue'));
    fireEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        call: 'PUT /api/v1/results-pages/{id}',
        path: { id: 'p1' },
        body: { withMoney: true },
      }),
    );
    fireEvent.click(screen.getByRole('button', { name: 'Withdraw' }));
    await waitFor(() => expect(sent[1]?.call).toBe('DELETE /api/v1/results-pages/{id}'));
  });

  it('says why a page is refused, and keeps what was typed', async () => {
    show(dialog, {
      'POST /api/v1/results-pages': { refused: 'The last day is over already; choose a later one, or none.' },
    });
    fireEvent.change(await screen.findByLabelText('Name, as its readers see it'), { target: { value: 'Spring' } });
    fireEvent.click(screen.getByRole('button', { name: 'Create results page' }));
    expect(await screen.findByText(/The last day is over already/)).toBeTruthy();
    expect(screen.getByDisplayValue('Spring')).toBeTruthy();
  });

  it('lets those who only look copy the address, and nothing more', async () => {
    show(dialog, pages(), 'viewer');
    expect(await screen.findByText('For the council')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Withdraw' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Create results page' })).toBeNull();
  });
});
