import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, it } from 'vitest';
import { choose, show } from '../../../test/show';
import { MailView } from './MailView';

const link = (number: number, more: object = {}) => ({
  number,
  text: `Link ${number}`,
  where: 'body link',
  fate: 'tag',
  typed: false,
  content: null,
  skipped: false,
  ready: false,
  notices: [],
  url: `https://marrowmere.example/${number}`,
  strip: [],
  ...more,
});
const mail = {
  id: 'm1',
  name: 'newsletter.html',
  subject: 'November',
  placement: null,
  campaign: null,
  contentBy: 'position',
  shorten: false,
  revision: 1,
  ready: 0,
  madeAt: null,
  madeBy: null,
  inbox: false,
  links: [link(1), link(2, { typed: true, content: 'hero' })],
};

/** The server takes what it is sent, unless somebody changed the mail meanwhile. */
function server() {
  let now: Record<string, unknown> = mail;
  return (sent: { body?: unknown }) => {
    const body = sent.body as Record<string, unknown>;
    expect(body.revision).toBe(now.revision);
    now = { ...now, ...body, links: mail.links, revision: (now.revision as number) + 1 };
    return now;
  };
}

it('keeps both of two choices made one right after the other', async () => {
  const sent = show(<MailView id="m1" onLeave={() => {}} />, {
    'GET /api/v1/mails/{id}': { data: mail },
    'GET /api/v1/placements': { data: [{ id: 'p1', name: 'Header button', channel: 'Email', publisher: null }] },
    'GET /api/v1/campaigns': { data: [{ id: 'c1', name: 'Lantern Nights' }] },
    'PUT /api/v1/mails/{id}': server(),
  });
  await screen.findByText('November');
  await choose('Placement', 'Header button');
  await choose('Campaign', 'Lantern Nights');
  fireEvent.click(screen.getByLabelText('short links'));
  await waitFor(() => expect(sent.filter((s) => s.call.startsWith('PUT'))).toHaveLength(3));
  expect(sent.at(-1)!.body).toMatchObject({
    placement: 'Header button',
    campaign: 'Lantern Nights',
    shorten: true,
    typed: { 2: 'hero' },
    revision: 3,
  });
});
