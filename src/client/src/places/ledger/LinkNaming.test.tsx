import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { LedgerRow } from '../../api/client';
import { show } from '../../test/show';
import { LinkNaming } from './LinkNaming';

const link = { id: 'l1', title: 'Gate poster', topics: ['print', 'winter'] } as unknown as LedgerRow;
const naming = 'PUT /api/v1/links/{id}/naming';

describe('a link’s name and topics', () => {
  it('are changed together', async () => {
    const sent = show(<LinkNaming link={link} />);
    expect(screen.getByText('print')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Edit title and topics' }));
    fireEvent.change(screen.getByLabelText('Title'), { target: { value: 'North gate' } });
    fireEvent.change(screen.getByLabelText(/Topics/), { target: { value: 'print, gate' } });
    fireEvent.click(screen.getByRole('button', { name: 'Change' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      call: naming,
      path: { id: 'l1' },
      body: { title: 'North gate', topics: ['print', ' gate'] },
    });
    expect(await screen.findByRole('button', { name: 'Edit title and topics' })).toBeTruthy();
  });

  it('keep what was typed when the server refuses it', async () => {
    show(<LinkNaming link={link} />, { [naming]: { refused: 'A topic has at most 40 characters.' } });
    fireEvent.click(screen.getByRole('button', { name: 'Edit title and topics' }));
    fireEvent.change(screen.getByLabelText('Title'), { target: { value: 'North gate' } });
    fireEvent.click(screen.getByRole('button', { name: 'Change' }));
    expect((await screen.findByRole('alert')).textContent).toBe('A topic has at most 40 characters.');
    expect(screen.getByLabelText<HTMLInputElement>('Title').value).toBe('North gate');
  });

  it('need a title', () => {
    show(<LinkNaming link={link} />);
    fireEvent.click(screen.getByRole('button', { name: 'Edit title and topics' }));
    fireEvent.change(screen.getByLabelText('Title'), { target: { value: '  ' } });
    expect(screen.getByRole('button', { name: 'Change' }).hasAttribute('disabled')).toBe(true);
  });

  it('are only read by somebody who only looks', () => {
    show(<LinkNaming link={link} />, {}, 'viewer');
    expect(screen.queryByRole('button')).toBeNull();
  });
});
