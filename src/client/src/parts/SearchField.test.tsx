import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { expect, it, vi } from 'vitest';
import '../test/show';
import { SearchField } from './SearchField';

const onChange = vi.fn();

function Place() {
  const [value, setValue] = useState('');
  return (
    <>
      <SearchField
        label="Search rows"
        value={value}
        onChange={(text) => {
          onChange(text);
          setValue(text);
        }}
      />
      <button type="button" onClick={() => setValue('from elsewhere')}>
        Elsewhere
      </button>
    </>
  );
}

it('tells what was typed once typing pauses, and follows a value that changes elsewhere', async () => {
  render(<Place />);
  const field = screen.getByLabelText<HTMLInputElement>('Search rows');
  fireEvent.change(field, { target: { value: 'f' } });
  fireEvent.change(field, { target: { value: 'fern' } });
  await waitFor(() => expect(onChange.mock.calls).toEqual([['fern']]));
  fireEvent.click(screen.getByText('Elsewhere'));
  await waitFor(() => expect(field.value).toBe('from elsewhere'));
  await new Promise((done) => setTimeout(done, 400));
  expect(onChange.mock.calls).toEqual([['fern']]);
});
