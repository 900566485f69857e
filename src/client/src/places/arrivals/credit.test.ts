import { describe, expect, it } from 'vitest';
import { creditAsked, creditOf, creditSentence, ruleOf, ruleText } from './credit';
import texts from './creditTexts.json';

const of = (address: string) => creditOf(new URLSearchParams(address));

describe('credit', () => {
  it.each(texts as [string, string, number, string][])('by %s is said as on paper', (rule, beside, days, says) => {
    const credit = of(`credit=${rule}&creditBeside=${beside}&creditDays=${days}`)!;
    expect(creditSentence(credit)).toBe(says);
    expect(of(new URLSearchParams(creditAsked(credit) as Record<string, string>).toString())).toEqual(credit);
  });

  it.each([
    '',
    'middle',
    'first:1',
    'ends:0-50',
    'ends:60-50',
    'ends:35',
    'ends:1-2-3',
    'fading:91',
    'fading:',
    'fading:x',
  ])('of “%s” is none', (text) => expect(ruleOf(text)).toBeNull());

  it('is written with its settings', () => {
    expect(['LASTTAGGED', 'ends', 'Fading:7'].map((t) => ruleText(ruleOf(t)!))).toEqual([
      'lastTagged',
      'ends:35-35',
      'fading:7',
    ]);
    expect(of('creditDays=30')).toBeNull();
    expect(of('credit=first&creditDays=400&creditBeside=no')).toEqual({ rule: 'first', beside: '', days: 45 });
  });
});
