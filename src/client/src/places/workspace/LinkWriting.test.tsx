import { fireEvent, screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { show } from '../../test/show';
import { LinkWriting } from './LinkWriting';

const writing = { placeholders: ['braces', 'mergeTags'], existing: 'replace', plusForSpace: false };

it('saves what an owner chose, in the order of the list', async () => {
  const sent = show(<LinkWriting tabs={null} />, { 'GET /api/v1/link-writing': { data: writing } });
  fireEvent.click(await screen.findByLabelText(/^\[name\]/));
  fireEvent.click(screen.getByLabelText(/^Keep them/));
  fireEvent.click(screen.getByLabelText(/^\+/));
  fireEvent.click(screen.getByText('Save'));
  await screen.findByText('Saved. New links are written like this.');
  expect(sent.map((s) => s.body)).toEqual([
    { placeholders: ['braces', 'brackets', 'mergeTags'], existing: 'keep', plusForSpace: true },
  ]);
});

it('says why it is not saved', async () => {
  show(<LinkWriting tabs={null} />, {
    'GET /api/v1/link-writing': { data: writing },
    'PUT /api/v1/link-writing': { refused: 'The list of placeholders is missing.' },
  });
  fireEvent.click(await screen.findByText('Save'));
  expect((await screen.findByRole('alert')).textContent).toBe('The list of placeholders is missing.');
});

it('lets a viewer look only', async () => {
  show(<LinkWriting tabs={null} />, { 'GET /api/v1/link-writing': { data: writing } }, 'viewer');
  expect(await screen.findByText('Owners can change this.')).toBeTruthy();
  expect(screen.queryByText('Save')).toBeNull();
});
