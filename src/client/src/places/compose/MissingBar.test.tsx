import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { ComposeAnswer, FieldAnswer } from '../../api/client';
import { show } from '../../test/show';
import type { Cell } from './composition';
import { MissingBar } from './MissingBar';

const fields = [
  { key: 'utm_content', label: 'Content', kind: 'text', words: [], example: 'top_banner', hint: 'What it shows.' },
  { key: 'utm_campaign', label: 'Campaign', kind: 'composed', words: [], example: null, hint: '' },
] as unknown as FieldAnswer[];
const cells = ['a', 'b', 'c'].map((key) => ({ key })) as unknown as Cell[];
const lacks = (...keys: string[]) =>
  ({ notices: keys.map((field) => ({ rule: 'missing-required', field })) }) as unknown as ComposeAnswer;

function bar(answers: Record<string, ComposeAnswer>) {
  const onFill = vi.fn();
  show(<MissingBar cells={cells} answers={new Map(Object.entries(answers))} fields={fields} onFill={onFill} />);
  return onFill;
}

describe('fields that links lack', () => {
  it('are asked for once and filled into those that lack them', () => {
    const onFill = bar({ a: lacks('utm_content'), b: lacks('utm_content'), c: lacks() });
    expect(document.body.textContent).toContain('Content is missing in 2 links:');
    const box = screen.getByLabelText('Content for all links without it');
    expect(box.getAttribute('placeholder')).toBe('such as top_banner');
    fireEvent.change(box, { target: { value: 'gate' } });
    fireEvent.click(screen.getByRole('button', { name: 'Fill into all 2' }));
    expect(onFill).toHaveBeenCalledWith([cells[0], cells[1]], 'utm_content', 'gate');
  });

  it('are counted in words', () => {
    bar({ a: lacks('utm_content'), b: lacks('utm_content'), c: lacks('utm_content') });
    expect(document.body.textContent).toContain('Content is missing in all 3 links:');
    expect(screen.getByRole('button', { name: 'Fill into all 3' }).hasAttribute('disabled')).toBe(true);
  });

  it('are not asked for where one is composed of others, or nothing lacks', () => {
    bar({ a: lacks('utm_campaign'), b: lacks() });
    expect(screen.queryByRole('textbox')).toBeNull();
  });

  it('take no empty value', () => {
    const onFill = bar({ a: lacks('utm_content') });
    expect(document.body.textContent).toContain('Content is missing in one link:');
    fireEvent.change(screen.getByLabelText('Content for all links without it'), { target: { value: '  ' } });
    fireEvent.submit(screen.getByLabelText('Content for all links without it').closest('form')!);
    expect(onFill).not.toHaveBeenCalled();
  });
});
