import { useQuery } from '@tanstack/react-query';
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { api } from '../../api/client';
import { show } from '../../test/show';
import type { ConventionDocument } from './document';
import { useDraft } from './useDraft';

const document = { severities: {}, fields: [] } as unknown as ConventionDocument;

/** Two changes of the draft, and a list beside it that compares versions. */
function Writing() {
  const draft = useDraft();
  const compared = useQuery({
    queryKey: ['convention', 'difference', 'draft', '1'],
    queryFn: async () =>
      (await api.GET('/api/v1/convention/difference', { params: { query: { before: '1', after: 'draft' } } })).data ??
      null,
  });
  if (!draft.document || !compared.isSuccess) return null;
  const set = (rule: string) => draft.change({ ...draft.document!, severities: { [rule]: 'error' } });
  return (
    <>
      <button onClick={() => set('word-new')}>First change</button>
      <button onClick={() => set('key-near')}>Second change</button>
      <p>{draft.state.kind}</p>
    </>
  );
}

describe('the draft of a convention', () => {
  it('saves one change after the other, each on what the one before it stored', async () => {
    let compared = 0;
    const given: (string | null)[] = [];
    const finish: (() => void)[] = [];
    show(<Writing />, {
      'GET /api/v1/convention': { data: { document, revision: 'published' } },
      'GET /api/v1/convention/difference': () => {
        compared += 1;
        return [];
      },
    });
    vi.spyOn(api, 'PUT').mockImplementation(((_: string, { body }: { body: { revision: string | null } }) => {
      given.push(body.revision);
      const saved = { document, revision: `revision ${given.length}` };
      return new Promise((done) => finish.push(() => done({ data: saved, response: new Response() })));
    }) as never);

    fireEvent.click(await screen.findByText('First change'));
    await waitFor(() => expect(given).toEqual([null]));
    fireEvent.click(screen.getByText('Second change'));
    await new Promise((done) => setTimeout(done, 700));
    finish[0]!();
    await waitFor(() => expect(given).toEqual([null, 'revision 1']));
    expect(screen.getByText('saving')).toBeTruthy();
    const before = compared;
    finish[1]!();
    await screen.findByText('saved');
    await waitFor(() => expect(compared).toBeGreaterThan(before));
  });

  it('saves what was changed right before the page was left', async () => {
    const sent = show(<Writing />, {
      'GET /api/v1/convention': { data: { document, revision: 'published' } },
      'PUT /api/v1/convention': { data: { document, revision: 'revision 1' } },
    });
    fireEvent.click(await screen.findByText('First change'));
    cleanup();
    await waitFor(() => expect(sent.map((s) => s.call)).toEqual(['PUT /api/v1/convention']));
    expect(sent[0]!.body).toMatchObject({ document: { severities: { 'word-new': 'error' } }, revision: null });
  });
});
