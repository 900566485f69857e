import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { FieldAnswer } from '../../api/client';
import { choose, show } from '../../test/show';
import { RecipeRow } from './RecipeRow';
import type { Recipe } from './recipe';

const fields = [
  { key: 'utm_source', label: 'Source', kind: 'text' },
  { key: 'utm_content', label: 'Content', kind: 'text' },
] as unknown as FieldAnswer[];

const recipe = {
  destination: { column: 'Page', value: null, text: null },
  placement: { column: null, value: 'Gate poster', text: null },
  campaign: null,
  fields: {},
  output: null,
  shorten: false,
  results: 'keep',
} as unknown as Recipe;

function row(readOnly = false) {
  const onChange = vi.fn();
  show(
    <RecipeRow
      recipe={recipe}
      columns={['Page', 'Bed', 'Link']}
      fields={fields}
      known={{ placement: ['Gate poster', 'Station poster'] }}
      readOnly={readOnly}
      onChange={onChange}
    />,
  );
  return onChange;
}

describe('the recipe of a sheet', () => {
  it('says what feeds each field', () => {
    row();
    expect(screen.getByLabelText('Page').textContent).toBe('Page');
    expect(screen.getByLabelText<HTMLInputElement>('Placement: one value for all rows').value).toBe('Gate poster');
  });

  it('is fed by another column, one value, or a text with columns', async () => {
    const onChange = row();
    await choose('Page', 'Bed');
    await choose('Page', 'a text with columns …');
    expect(onChange.mock.calls.map((c) => (c[0] as Recipe).destination)).toEqual([
      { column: 'Bed', value: null, text: null },
      { column: null, value: null, text: '' },
    ]);
  });

  it('takes a value over when the box is left, and only when it changed', () => {
    const onChange = row();
    const box = screen.getByLabelText('Placement: one value for all rows');
    fireEvent.blur(box);
    expect(onChange).not.toHaveBeenCalled();
    fireEvent.change(box, { target: { value: 'Station poster' } });
    fireEvent.blur(box);
    expect((onChange.mock.lastCall?.[0] as Recipe).placement).toEqual({
      column: null,
      value: 'Station poster',
      text: null,
    });
  });

  it('gets fields beyond page, placement and campaign when they are wanted', async () => {
    const onChange = row();
    await choose('Another field', 'Content');
    expect((onChange.mock.lastCall?.[0] as Recipe).fields).toMatchObject({ utm_content: { value: '' } });
  });

  it('writes links into a column in place, with short links where they are wanted', async () => {
    const onChange = row();
    await choose('Write links into', 'Link, replacing it');
    expect((onChange.mock.lastCall?.[0] as Recipe).output).toEqual({ column: 'Link', value: null, text: null });
    fireEvent.click(screen.getByLabelText('with short links and codes'));
    expect((onChange.mock.lastCall?.[0] as Recipe).shorten).toBe(true);
    fireEvent.click(screen.getByLabelText('create a new link where it would change'));
    expect((onChange.mock.lastCall?.[0] as Recipe).results).toBe('afresh');
  });

  it('is only read while nobody may change it', () => {
    row(true);
    expect(screen.getByLabelText('Page').hasAttribute('disabled')).toBe(true);
    expect(screen.queryByLabelText('Another field')).toBeNull();
  });
});
