import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { RetentionSpan } from './RetentionSpan';

const read = 'GET /api/v1/retention';
const look = 'POST /api/v1/retention/count';
const kept = { data: { months: 25, rawFrom: '2024-10-01' } };

describe('the span single visits are kept', () => {
  it('says what another one deletes before it is taken', async () => {
    const sent = show(<RetentionSpan />, {
      [read]: kept,
      [look]: { data: { from: '2026-05-01', visits: 12345, clicks: 1 } },
    });
    const months = await screen.findByLabelText('Whole months kept');
    expect(screen.getByText(/They are kept from 1 Oct 2024 on/)).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Preview effect' })).toHaveProperty('disabled', true);
    fireEvent.change(months, { target: { value: '6' } });
    fireEvent.click(screen.getByRole('button', { name: 'Preview effect' }));
    const effect = await screen.findByRole('region', { name: 'Effect on visits and clicks' });
    expect(effect.textContent).toContain('12,345 visits and 1 click before 1 May 2026 are deleted for good.');
    fireEvent.click(screen.getByRole('button', { name: 'Keep 6 months' }));
    await waitFor(() => expect(sent.at(-1)).toMatchObject({ call: 'PUT /api/v1/retention', body: { months: 6 } }));
  });

  it('is only read by whoever is no owner', async () => {
    show(<RetentionSpan />, { [read]: kept }, 'viewer');
    expect(await screen.findByLabelText('Whole months kept')).toHaveProperty('readOnly', true);
    expect(screen.queryByRole('button')).toBeNull();
  });
});
