import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../../test/show';
import { LinkReviewView } from './LinkReviewView';

const review = (more: object = {}) => ({
  data: {
    id: 'a1',
    name: 'old-links.csv',
    createdAt: '2026-11-25T10:00:00Z',
    createdBy: 'Orla Fenwick',
    conventionVersion: 4,
    pages: null,
    right: 120,
    mended: 40,
    stuck: 2,
    rules: [
      { rule: 'case-changed', severity: 'warning', links: 40, mended: 40, example: 'Email was written email.' },
      { rule: 'word-unknown', severity: 'error', links: 3, mended: 1, example: '“emial” is in no list.' },
      { rule: 'value-missing', severity: 'error', links: 2, mended: 0, example: 'Medium is missing.' },
    ],
    problems: [],
    ...more,
  },
});
const link = (number: number, more: object = {}) => ({
  number,
  link: `https://marrowmere.example/?utm_source=Trellis&n=${number}`,
  foundOn: null,
  says: ['Source: “Trellis” was written “trellis”.'],
  state: 'mended',
  mendedUrl: `https://marrowmere.example/?utm_source=trellis&n=${number}`,
  questions: [],
  ...more,
});
const read = 'GET /api/v1/link-reviews/{id}';
const links = 'GET /api/v1/link-reviews/{id}/links';

describe('a link review', () => {
  it('says what is right, repaired and to decide, and each rule with its counts', async () => {
    show(<LinkReviewView id="a1" onLeave={vi.fn()} />, {
      [read]: review(),
      [links]: { data: { links: [link(1)], total: 1 } },
    });
    await screen.findByRole('button', { name: '40 × case changed' });
    const says = document.body.textContent;
    expect(says).toContain('162 links · 120 right · 40 repaired · 2 to decide');
    expect(says).toContain('all repaired. Email was written email.');
    expect(says).toContain('1 repaired. “emial” is in no list.');
    expect(says).toContain('to decide. Medium is missing.');
    expect(await screen.findByText('https://marrowmere.example/?utm_source=trellis&n=1')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'XLSX' }).getAttribute('href')).toBe('/api/v1/link-reviews/a1/result.xlsx');
  });

  it('is narrowed down to a rule or a state, from the first page on', async () => {
    const asked: unknown[] = [];
    show(<LinkReviewView id="a1" onLeave={vi.fn()} />, {
      [read]: review(),
      [links]: ({ query }) => {
        asked.push(query);
        return { links: [link(1)], total: 162 };
      },
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Next' }));
    await waitFor(() => expect(asked).toContainEqual({ skip: 100, most: 100 }));
    expect(document.body.textContent).toContain('101 to 162 of 162');
    fireEvent.click(screen.getByRole('button', { name: '3 × word unknown' }));
    await waitFor(() => expect(asked).toContainEqual({ rule: 'word-unknown', skip: 0, most: 100 }));
    fireEvent.click(screen.getByRole('button', { name: '2 to decide' }));
    await waitFor(() => expect(asked).toContainEqual({ state: 'stuck', skip: 0, most: 100 }));
    expect(screen.getByRole('button', { name: '2 to decide' }).getAttribute('aria-pressed')).toBe('true');
  });

  it('says so where everything is right, or nothing was found, and what was not looked at', async () => {
    show(<LinkReviewView id="a1" onLeave={vi.fn()} />, {
      [read]: review({ rules: [], mended: 0, stuck: 0, problems: ['https://marrowmere.example/x does not answer.'] }),
      [links]: { data: { links: [], total: 0 } },
    });
    expect(await screen.findByText('Every link follows the convention.')).toBeTruthy();
    expect(screen.getByText('https://marrowmere.example/x does not answer.')).toBeTruthy();
  });

  it('that is not there leads back', async () => {
    const onLeave = vi.fn();
    show(<LinkReviewView id="a1" onLeave={onLeave} />, {
      [read]: { refused: 'There is no such link review in this workspace.' },
    });
    expect(await screen.findByText(/There is no such link review/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'All link reviews' }));
    expect(onLeave).toHaveBeenCalled();
  });
});
