import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import { UploadList } from './UploadList';

function list(onFile: (file: File) => void, role: 'editor' | 'viewer', rows: { id: string; cells: string[] }[] = []) {
  const sample = new Blob(['No;Page'], { type: 'text/csv' });
  show(
    <UploadList
      parts={null}
      state=""
      mayWrite={role === 'editor'}
      file={{ label: 'Sheet', accept: '.csv', says: 'Upload a sheet', pending: false }}
      hint=""
      paste={{ label: 'Pasted cells', asFile: (text) => new File([text], 'Pasted cells') }}
      onFile={onFile}
      error={null}
      empty="No sheets yet."
      samples={['community-groups.csv']}
      heads={[{ name: 'Sheet' }]}
      rows={rows}
      onOpen={() => {}}
    />,
    { 'GET /api/v1/samples/{name}': { data: sample } },
    role,
  );
}

it('offers the sample files while it is empty, by one press', async () => {
  const onFile = vi.fn();
  list(onFile, 'editor');
  fireEvent.click(screen.getByRole('button', { name: 'Try community-groups.csv' }));
  await waitFor(() => expect(onFile).toHaveBeenCalled());
  const file = onFile.mock.calls[0]![0] as File;
  expect([file.name, file.size]).toEqual(['community-groups.csv', 7]);
});

it('offers none to those who may not write, and none where something is there', () => {
  list(() => {}, 'viewer');
  expect(screen.queryByRole('button', { name: /Try/ })).toBeNull();
  list(() => {}, 'editor', [{ id: '1', cells: ['A sheet'] }]);
  expect(screen.queryByRole('button', { name: /Try/ })).toBeNull();
});
