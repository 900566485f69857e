import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { Sites } from './Sites';

const site = (more: object = {}) => ({
  id: 's1',
  name: 'Garden',
  measuringKey: 'k1',
  hosts: ['localhost:7000', 'marrowmere.example'],
  plainHosts: ['localhost:7000'],
  largestValue: 1000000,
  keepsVisitorIds: false,
  honoursOptOut: true,
  sourceFields: [],
  style: 'query',
  stoppedAt: null,
  lastMeasuredAt: '2026-11-30T10:00:00Z',
  lastMeasuredPage: 'https://marrowmere.example/visit',
  foreignHost: null,
  foreignAt: null,
  snippet: '<script async src="https://beacon.example/beacon.js" data-key="k1"></script>',
  pinnedSnippet: '<script async src="https://beacon.example/beacon/1.js" integrity="sha384-x" data-key="k1"></script>',
  pictureSnippet: '<noscript></noscript>',
  ...more,
});
const answers = (more: object = {}) => ({
  'GET /api/v1/retention': { data: { months: 25, rawFrom: null } },
  'GET /api/v1/imports/access-log': { data: [] },
  'GET /api/v1/passing-hosts': { data: { hosts: [], suggested: [] } },
  'GET /api/v1/sites': { data: [site(more)] },
  'GET /api/v1/convention/fields': {
    data: [
      { key: 'utm_source', label: 'Source' },
      { key: 'utm_campaign', label: 'Campaign' },
    ],
  },
});

describe('sites', () => {
  it('are added by their host', async () => {
    const sent = show(<Sites tabs={null} />, answers());
    fireEvent.change(screen.getByLabelText('Host of a new site'), { target: { value: 'fern.example' } });
    fireEvent.click(screen.getByRole('button', { name: 'Add site' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ call: 'POST /api/v1/sites', body: { hosts: ['fern.example'] } }),
    );
  });

  it('say when they were measured last, and where', async () => {
    show(<Sites tabs={null} />, answers());
    expect((await screen.findByText(/Last measured/)).textContent).toContain('on marrowmere.example/visit');
    show(<Sites tabs={null} />, answers({ hosts: ['marrowmere.example'] }));
    await waitFor(() => expect(screen.getAllByText('/visit')).toHaveLength(1));
  });

  it('show the tag first while nothing is measured', async () => {
    show(<Sites tabs={null} />, answers({ lastMeasuredAt: null, lastMeasuredPage: null }));
    expect(await screen.findByText('Nothing measured yet')).toBeTruthy();
    expect(screen.getByText(/beacon\.js" data-key="k1"/)).toBeTruthy();
    fireEvent.click(screen.getByLabelText('Keep to this version of the script'));
    expect(screen.getByText(/integrity="sha384-x"/)).toBeTruthy();
  });

  it('offer a host that used the key', async () => {
    const sent = show(
      <Sites tabs={null} />,
      answers({ foreignHost: 'www.marrowmere.example', foreignAt: '2026-11-30T10:00:00Z' }),
    );
    fireEvent.click(await screen.findByRole('button', { name: 'Add www.marrowmere.example' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        call: 'PUT /api/v1/sites/{id}',
        body: { hosts: ['http://localhost:7000', 'marrowmere.example', 'www.marrowmere.example'] },
      }),
    );
  });

  it('are changed as one', async () => {
    const sent = show(<Sites tabs={null} />, answers());
    fireEvent.click(await screen.findByRole('button', { name: 'Settings' }));
    fireEvent.change(screen.getByLabelText('Largest value of a conversion'), { target: { value: '500,50' } });
    fireEvent.change(screen.getByLabelText(/^Hosts, one on each line/), {
      target: { value: 'fern.example\n\nmoss.example ' },
    });
    fireEvent.click(screen.getByLabelText(/^Leave out visitors/));
    fireEvent.click(await screen.findByLabelText('Campaign'));
    fireEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        call: 'PUT /api/v1/sites/{id}',
        path: { id: 's1' },
        body: {
          name: 'Garden',
          hosts: ['fern.example', 'moss.example'],
          largestValue: 500.5,
          style: 'query',
          keepsVisitorIds: false,
          honoursOptOut: false,
          sourceFields: ['utm_campaign'],
        },
      }),
    );
  });

  it('are stopped, and get another key only after a second word', async () => {
    const sent = show(<Sites tabs={null} />, answers());
    fireEvent.click(await screen.findByRole('button', { name: 'Settings' }));
    fireEvent.click(screen.getByRole('button', { name: 'Stop measuring' }));
    await waitFor(() => expect(sent[0]).toMatchObject({ body: { isMeasured: false } }));
    fireEvent.click(screen.getByRole('button', { name: 'New key …' }));
    fireEvent.click(screen.getByRole('button', { name: 'Create new key' }));
    await waitFor(() => expect(sent[1]).toMatchObject({ call: 'POST /api/v1/sites/{id}/key' }));
  });

  it('are only shown to others', async () => {
    show(<Sites tabs={null} />, answers({ stoppedAt: '2026-11-30T10:00:00Z' }), 'viewer');
    expect(await screen.findByText(/Not measured since/)).toBeTruthy();
    expect(screen.queryByLabelText('Host of a new site')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Settings' }));
    expect(screen.getByLabelText('Largest value of a conversion').closest('fieldset')).toHaveProperty('disabled', true);
    expect(screen.queryByRole('button', { name: 'Save' })).toBeNull();
  });
});
