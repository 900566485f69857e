import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import { AttributeEditor } from './AttributeEditor';

const known = { 'GET /api/v1/campaign-attributes': { data: [{ name: 'region', values: ['vale', 'coast'] }] } };

describe('attributes of campaigns', () => {
  it('are added, changed and taken out together', async () => {
    const onClose = vi.fn();
    const sent = show(<AttributeEditor onClose={onClose} />, known);
    expect(await screen.findByDisplayValue('vale, coast')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Add attribute' }));
    fireEvent.change(screen.getByLabelText('Attribute 2'), { target: { value: 'department' } });
    fireEvent.change(screen.getByLabelText('Values of department'), { target: { value: ' shop , , garden' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save attributes' }));
    await waitFor(() => expect(onClose).toHaveBeenCalled());
    expect(sent[0]?.body).toEqual([
      { name: 'region', values: ['vale', 'coast'] },
      { name: 'department', values: ['shop', 'garden'] },
    ]);
  });

  it('without a name are left out', async () => {
    const sent = show(<AttributeEditor onClose={vi.fn()} />, known);
    await screen.findByDisplayValue('region');
    fireEvent.click(screen.getByRole('button', { name: 'Add attribute' }));
    fireEvent.click(screen.getByRole('button', { name: 'Remove region' }));
    fireEvent.click(screen.getByRole('button', { name: 'Save attributes' }));
    await waitFor(() => expect(sent[0]?.body).toEqual([]));
  });

  it('are saved only when something changed', async () => {
    show(<AttributeEditor onClose={vi.fn()} />, known);
    await screen.findByDisplayValue('region');
    expect(screen.getByRole('button', { name: 'Save attributes' }).hasAttribute('disabled')).toBe(true);
  });
});
