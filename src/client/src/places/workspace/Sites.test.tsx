import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { Sites } from './Sites';

const answers = {
  'GET /api/v1/retention': { data: { months: 25, rawFrom: null } },
  'GET /api/v1/imports/access-log': { data: [] },
  'GET /api/v1/passing-hosts': { data: { hosts: [], suggested: [] } },
  'GET /api/v1/sites': {
    data: [{ id: 's1', name: 'Garden', measuringKey: 'k1', hosts: ['marrowmere.example'], largestValue: 1000000 }],
  },
};

describe('sites', () => {
  it('have a limit an owner changes', async () => {
    const sent = show(<Sites tabs={null} />, answers);
    fireEvent.change(await screen.findByLabelText('Largest value of a conversion'), { target: { value: '500,50' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        call: 'PUT /api/v1/sites/{id}',
        path: { id: 's1' },
        body: { largestValue: 500.5 },
      }),
    );
  });

  it('are only shown to others', async () => {
    show(<Sites tabs={null} />, answers, 'viewer');
    expect(await screen.findByLabelText('Largest value of a conversion')).toHaveProperty('readOnly', true);
    expect(screen.queryByRole('button', { name: 'Save' })).toBeNull();
  });
});
