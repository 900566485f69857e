import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { Schema } from '../../../api/client';
import { show } from '../../../test/show';
import { Verdict } from './Verdict';

const facts: Schema['CodeFacts'] = {
  says: 'https://mmr.example/gate',
  version: 3,
  correction: 'm',
  modules: 37,
  moduleMillimetres: 0.81,
  dotsPerModule: 9,
  dots: 333,
  trueMillimetres: 28.2,
  heightMillimetres: 30,
  readingMillimetres: 300,
  contrast: 21,
  compactSaves: false,
  logoLost: null,
  logoRepairable: null,
  notices: [],
} as never;

const code = (more: object = {}, of: object = {}) =>
  ({
    facts: { ...facts, ...of },
    trials: [
      { name: 'as drawn', reads: true },
      { name: 'from afar', reads: false },
    ],
    verdict: 'doubtful',
    sentence: 'It scans as drawn, but not when seen from afar; print it larger.',
    preview: '<svg/>',
    ...more,
  }) as Schema['CodeAnswer'];

describe('whether a code will scan', () => {
  it('is said plainly, with what the reader could read', () => {
    show(<Verdict code={code()} />);
    expect(screen.getByRole('status').textContent).toContain('May not always scan');
    const trials = within(screen.getByRole('list', { name: 'Read by an independent reader' })).getAllByRole('listitem');
    expect(trials.map((t) => [t.textContent.trim(), within(t).getByRole('img').getAttribute('aria-label')])).toEqual([
      ['as drawn', 'Ready'],
      ['from afar', 'Error'],
    ]);
  });

  it.each([
    ['scans', 'Scans'],
    ['unreadable', 'Doesn’t scan'],
    ['unproven', 'Not tested'],
  ])('has a title for %s', (verdict, title) => {
    show(<Verdict code={code({ verdict, trials: [] })} />);
    expect(screen.getByRole('status').textContent).toContain(title);
    expect(screen.queryByRole('list', { name: 'Read by an independent reader' })).toBeNull();
  });

  it('counts modules without the quiet zone of four on each side', () => {
    // ISO/IEC 18004, 6.3.8 and table 1: version 3 has 29 × 29 modules.
    show(<Verdict code={code()} />);
    expect(document.body.textContent).toContain('29 × 29 (version 3, M), 0.81 mm each');
  });

  it('tells distances people can picture', () => {
    show(<Verdict code={code({}, { readingMillimetres: 300 })} />);
    expect(document.body.textContent).toContain('about 30 cm');
    show(<Verdict code={code({}, { readingMillimetres: 20_000 })} />);
    expect(document.body.textContent).toContain('about 20.0 m');
  });

  it('says what a logo costs where there is one', () => {
    show(<Verdict code={code({}, { logoLost: 4, logoRepairable: 11 })} />);
    expect(document.body.textContent).toContain('4 codewords of one block; 11 can be put right');
  });

  it('does not say the same thing twice', () => {
    const small = {
      rule: 'code-small',
      severity: 'warning',
      field: null,
      message: 'At 12 mm it is hard to read.',
      repair: null,
    };
    show(<Verdict code={code({ sentence: small.message, verdict: 'doubtful' }, { notices: [small] })} />);
    expect(screen.getAllByText('At 12 mm it is hard to read.')).toHaveLength(1);
  });
});
